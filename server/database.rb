# frozen_string_literal: true

require "fileutils"

module Server
  # The SQLite database: its connection and its migrations.
  module Database
    MIGRATIONS = File.join(__dir__, "db", "migrate")

    # WAL lets readers go on while one writer writes; with it, synchronous=NORMAL loses no consistency in a crash, at
    # most the last transactions of a power cut.
    PRAGMAS = { journal_mode: :wal, foreign_keys: true, synchronous: :normal }.freeze
    # Milliseconds that a transaction waits for another to end.
    PATIENCE = 5000

    # SQLite's own busy timeout sleeps with Ruby's lock held, so that the thread it waits for can't go on; this one
    # waits in Ruby.
    module Patient
      private

      def configure_connection
        super
        @raw_connection.busy_handler_timeout = PATIENCE
      end
    end

    # @param file [String]
    # @return [void]
    def self.connect(file = Settings.database)
      FileUtils.mkdir_p(File.dirname(file))
      ActiveSupport.on_load(:active_record_sqlite3adapter) { prepend Patient }
      ActiveRecord::Base.establish_connection(adapter: "sqlite3", database: file, pool: 40, pragmas: PRAGMAS,
                                              default_transaction_mode: :immediate)
      ActiveRecord::Base.logger = nil
      Keys.load
    end

    # @return [void]
    def self.migrate
      ActiveRecord::Migration.verbose = false
      ActiveRecord::MigrationContext.new(MIGRATIONS).migrate
    end
  end
end
