# frozen_string_literal: true

require "active_support/message_encryptor"
require "openssl"
require "sqlite3"

module Server
  # A consistent copy of the shop in one file, taken while it runs: everything with its releases and orders. Secrets are
  # in it as they are stored, encrypted; the keys to them only where a passphrase is given, encrypted by it.
  class Backup
    # Pages that are copied in one go; between two, others write.
    PAGES = 64
    # What a backup says of itself, in a table of its own.
    TABLE = "gate_mile_backup"
    SCRYPT = { N: 2**15, r: 8, p: 1, length: 32 }.freeze
    # Characters of a passphrase, at least.
    SHORTEST = 12
    private_constant :PAGES, :SCRYPT

    # The file is there already, or can't be written.
    class Refused < StandardError; end

    # The database itself is damaged: a copy of it is no backup.
    class Damaged < Refused; end

    class << self
      # @param file [String] that does not exist yet
      # @param passphrase [String, nil] that the keys of secrets are encrypted by; nil to leave them out
      # @param now [Time]
      # @return [void]
      # @raise [Refused]
      def write(file, passphrase: nil, now: Time.now)
        raise Refused, "#{file} is there already" if File.exist?(file)

        part = "#{file}.part"
        Database.remove(part)
        File.write(part, "", mode: File::WRONLY | File::CREAT | File::EXCL, perm: 0o600)
        copy(part)
        refuse_damaged(part)
        sign(part, passphrase && locked(File.read(Keys.file), passphrase), now)
        File.open(part, &:fsync)
        File.rename(part, file)
      rescue SQLite3::CorruptException, SQLite3::NotADatabaseException => e
        raise Damaged, "the database is damaged (#{e.message})"
      rescue SystemCallError, SQLite3::Exception => e
        raise Refused, e.message
      ensure
        Database.remove(part) if part
      end

      # @param text [String]
      # @param passphrase [String]
      # @return [String] to be opened with {.unlocked}
      def locked(text, passphrase)
        raise Refused, "the passphrase has fewer than #{SHORTEST} characters" if passphrase.length < SHORTEST

        salt = SecureRandom.hex(16)
        "#{salt} #{box(passphrase, salt).encrypt_and_sign(text)}"
      end

      # @param text [String]
      # @param passphrase [String]
      # @return [String, nil] nil with another passphrase
      def unlocked(text, passphrase)
        salt, rest = text.split(" ", 2)
        box(passphrase, salt).decrypt_and_verify(rest)
      rescue ActiveSupport::MessageEncryptor::InvalidMessage
        nil
      end

      private

      # All pages as of one moment: what is read stays as it is while others write.
      def copy(file)
        from = SQLite3::Database.new(Settings.database, readonly: true)
        to = SQLite3::Database.new(file)
        from.transaction do
          from.get_first_value("SELECT COUNT(*) FROM sqlite_master")
          backup = SQLite3::Backup.new(to, "main", from, "main")
          sleep(0.001) while (code = backup.step(PAGES)) == SQLite3::Constants::ErrorCode::OK
          backup.finish
          raise Refused, "it could not be copied whole" unless code == SQLite3::Constants::ErrorCode::DONE
        end
      ensure
        [from, to].each { |one| one&.close }
      end

      # SQLite copies a damaged page as it is.
      def refuse_damaged(file)
        found = Soundness.faults(file)
        raise Damaged, "the database is damaged (#{found.join("; ")})" if found.any?
      end

      def sign(file, keys, now)
        SQLite3::Database.new(file) do |copy|
          copy.execute("PRAGMA journal_mode = DELETE")
          # Who was signed in then, and links that were open, let nobody in again.
          %w[sessions invitations].each { |table| copy.execute("DELETE FROM #{table}") }
          copy.execute("CREATE TABLE #{TABLE} (made_at TEXT NOT NULL, keys TEXT)")
          copy.execute("INSERT INTO #{TABLE} VALUES (?, ?)", [now.utc.iso8601, keys])
        end
      end

      def box(passphrase, salt)
        key = OpenSSL::KDF.scrypt(passphrase, salt: salt, **SCRYPT)
        ActiveSupport::MessageEncryptor.new(key, cipher: "aes-256-gcm",
                                                 serializer: ActiveSupport::MessageEncryptor::NullSerializer)
      end
    end
  end
end
