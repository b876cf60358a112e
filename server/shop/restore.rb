# frozen_string_literal: true

require "sqlite3"

module Server
  # Puts a backup where there is no shop yet. Nothing is there until all of it has been checked.
  class Restore
    # It is no backup, a damaged one, or there is a shop already. Its message says which.
    class Refused < StandardError; end

    # What is told of what came back: by table, what one and what several of them are called.
    COUNTED = { "zones" => %w[zone zones], "rates" => %w[rate rates], "products" => %w[product products],
                "proofs" => %w[proof proofs], "releases" => %w[release releases], "orders" => %w[order orders] }.freeze

    # What came: the shop's name, when the backup was made, counts by table, and the names of carriers whose secrets
    # have to be typed again.
    Told = Struct.new(:shop, :made_at, :counts, :lost)

    class << self
      # @param file [String] that {Backup} wrote
      # @param passphrase [#call, nil] asked where the backup holds keys; nil to leave them
      # @return [Told]
      # @raise [Refused]
      def read(file, passphrase: nil)
        refuse_what_is_there
        made_at, keys = checked(file)
        keys = unlocked(keys, passphrase.call) if keys && passphrase
        take_over(file, keys)
        Database.connect
        Database.migrate
        told(made_at)
      end

      private

      def refuse_what_is_there
        there = [Settings.database, Keys.file].find { |path| File.exist?(path) } or return
        raise Refused, "there is a shop already: #{there}. Move it away first; it is not written over"
      end

      # @return [Array(String, String)] when it was made, and the keys where it has them
      def checked(file)
        raise Refused, "there is no file #{file}" unless File.file?(file)

        SQLite3::Database.new(file, readonly: true) do |copy|
          refuse_damaged(copy)
          Database.refuse_newer(copy.execute("SELECT version FROM schema_migrations").flatten.map(&:to_i))
          return copy.get_first_row("SELECT made_at, keys FROM #{Backup::TABLE}")
        end
      rescue Database::Newer => e
        raise Refused, e.message
      rescue SQLite3::Exception
        raise Refused, "#{file} is no backup of Gate Mile, or a damaged one"
      end

      def refuse_damaged(copy)
        found = copy.execute("PRAGMA integrity_check").flatten
        raise Refused, "it is damaged: #{found.first(3).join("; ")}" unless found == ["ok"]
        raise Refused, "it is damaged: rows are missing" if copy.execute("PRAGMA foreign_key_check").any?
      end

      def unlocked(keys, passphrase)
        Backup.unlocked(keys, passphrase) or raise Refused, "the passphrase is another one"
      end

      def take_over(file, keys)
        FileUtils.mkdir_p(File.dirname(Settings.database), mode: 0o700)
        part = "#{Settings.database}.part"
        FileUtils.cp(file, part)
        File.chmod(0o600, part)
        SQLite3::Database.new(part) { |copy| copy.execute("DROP TABLE #{Backup::TABLE}") }
        File.open(Keys.file, File::WRONLY | File::CREAT | File::EXCL, 0o600) { |out| out.write(keys) } if keys
        File.rename(part, Settings.database)
      end

      def told(made_at)
        counts = COUNTED.keys.to_h do |table|
          [table, ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM #{table}")]
        end
        Told.new(Records::Store.current&.name, made_at, counts,
                 Records::Carrier.order(:name).select(&:secret_lost?).map(&:name))
      end
    end
  end
end
