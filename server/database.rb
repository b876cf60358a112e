# frozen_string_literal: true

require "fileutils"

module Server
  # The SQLite database: its connection and its migrations.
  module Database
    MIGRATIONS = File.join(__dir__, "db", "migrate")

    # WAL lets readers go on while one writer writes; with it, synchronous=NORMAL loses no consistency in a crash, at
    # most the last transactions of a power cut. Writers queue for up to five seconds.
    PRAGMAS = { journal_mode: :wal, foreign_keys: true, synchronous: :normal, busy_timeout: 5000 }.freeze

    # @param file [String]
    # @return [void]
    def self.connect(file = Settings.database)
      FileUtils.mkdir_p(File.dirname(file))
      ActiveRecord::Base.establish_connection(adapter: "sqlite3", database: file, pool: 16, timeout: 5000,
                                              default_transaction_mode: :immediate, pragmas: PRAGMAS)
      ActiveRecord::Base.logger = nil
    end

    # @return [void]
    def self.migrate
      ActiveRecord::Migration.verbose = false
      ActiveRecord::MigrationContext.new(MIGRATIONS).migrate
    end
  end
end
