# frozen_string_literal: true

require "fileutils"
require "json"

module Server
  # The keys that secrets are encrypted with. They are made at the first start, beside the database and readable by
  # their owner alone, and are in no backup, export or book: whoever copies the database alone can't read a secret.
  module Keys
    NAMES = %w[primary_key deterministic_key key_derivation_salt].freeze
    private_constant :NAMES

    class << self
      # @return [String]
      def file = File.join(File.dirname(Settings.database), "keys.json")

      # @return [void]
      def load
        make unless File.exist?(file)
        keys = JSON.parse(File.read(file)).slice(*NAMES)
        ActiveRecord::Encryption.configure(**keys.transform_keys(&:to_sym))
      end

      private

      def make
        FileUtils.mkdir_p(File.dirname(file))
        keys = NAMES.to_h { |name| [name, SecureRandom.alphanumeric(32)] }
        File.open(file, File::WRONLY | File::CREAT | File::EXCL, 0o600) { |out| out.write(JSON.generate(keys)) }
      rescue Errno::EEXIST
        nil
      end
    end
  end
end
