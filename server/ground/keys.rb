# frozen_string_literal: true

require "fileutils"
require "json"

module Server
  # The keys that secrets are encrypted with. They are made at the first start, beside the database and readable by
  # their owner alone, are in no export or book, and in a backup only where that is asked for and locked: whoever copies
  # the database alone can't read a secret.
  module Keys
    NAMES = %w[primary_key deterministic_key key_derivation_salt].freeze
    # What quotes of the checkout door are sealed with.
    SEAL = "seal_key"
    # Those that can be replaced: each is one key, or several with the newest last.
    ROTATED = ["primary_key", SEAL].freeze
    private_constant :NAMES, :SEAL, :ROTATED

    class << self
      # @return [String]
      def file = File.join(File.dirname(Settings.database), "keys.json")

      # @return [void]
      def load
        make unless File.exist?(file)
        keys = JSON.parse(File.read(file))
        keys = with_seal(keys) unless keys[SEAL]
        @seal = Array(keys[SEAL])
        @several = keys["primary_key"].is_a?(Array)
        ActiveRecord::Encryption.configure(**keys.slice(*NAMES).transform_keys(&:to_sym), encryptor: Forgiving.new)
      end

      # @return [Array<String>] 32 characters each; the last one seals, all open
      attr_reader :seal

      # New keys beside the old ones, which go on reading what was written with them. A server takes them up when it
      # starts.
      # @return [void]
      def rotate
        make unless File.exist?(file)
        keys = JSON.parse(File.read(file))
        ROTATED.each { |name| keys[name] = [*keys[name], SecureRandom.alphanumeric(32)] }
        write(keys)
      end

      # @return [Boolean] whether secrets may still be written with an older one
      def several? = @several

      private

      def make
        FileUtils.mkdir_p(File.dirname(file))
        keys = [*NAMES, SEAL].to_h { |name| [name, SecureRandom.alphanumeric(32)] }
        File.open(file, File::WRONLY | File::CREAT | File::EXCL, 0o600) { |out| out.write(JSON.generate(keys)) }
      rescue Errno::EEXIST
        nil
      end

      # A file from before there was a checkout door.
      def with_seal(keys)
        keys.merge(SEAL => SecureRandom.alphanumeric(32)).tap { |whole| write(whole) }
      end

      def write(keys)
        File.write("#{file}.new", JSON.generate(keys), perm: 0o600)
        File.rename("#{file}.new", file)
      end
    end
  end
end
