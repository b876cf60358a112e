# frozen_string_literal: true

require "fileutils"
require "sqlite3"

module Server
  # The SQLite database: its connection and its migrations.
  module Database
    MIGRATIONS = File.join(ROOT, "server", "db", "migrate")

    OPEN = SQLite3::Constants::Open
    # Each connection is used by one thread at a time, and needs no lock of SQLite's own: a thread that waits for a busy
    # database would hold it, and a fork would inherit it held (docs/decisions/0050-what-takes-long-is-forked.md).
    UNLOCKED = OPEN::NOMUTEX
    # WAL lets readers go on while one writer writes; with it, synchronous=NORMAL loses no consistency in a crash, at
    # most the last transactions of a power cut.
    PRAGMAS = { journal_mode: :wal, foreign_keys: true, synchronous: :normal }.freeze
    PATIENCE = 5000
    private_constant :PATIENCE, :OPEN

    # A transaction that reads takes no lock that a writer holds or waits for; one that edits takes the write lock at
    # its beginning, so that what it reads is still so when it writes. It waits for others in Ruby: SQLite's own busy
    # timeout sleeps with Ruby's lock held, so that the thread it waits for can't go on.
    module Patient
      def begin_db_transaction
        log("begin transaction", "TRANSACTION") do
          with_raw_connection(allow_retry: true, materialize_transactions: false) do |connection|
            connection.transaction(Database.writing? ? :immediate : :deferred).tap { verified! }
          end
        end
      end

      # Where SQLite itself has taken a transaction back, as on a full disk, there is none left to end: what went wrong
      # first is what is told.
      def exec_rollback_db_transaction
        super if @raw_connection&.transaction_active?
      end

      private

      def configure_connection
        super
        @raw_connection.busy_handler_timeout = Database.patience
      end

      def translate_exception(exception, message:, sql:, binds:)
        return super unless exception.is_a?(SQLite3::BusyException) || exception.is_a?(SQLite3::LockedException)

        ActiveRecord::LockWaitTimeout.new(message, sql: sql, binds: binds, connection_pool: @pool)
      end
    end

    # What SQLite and the system raise where nothing can be written, and where what is read makes no sense.
    TROUBLE = { full: [SQLite3::FullException, Errno::ENOSPC, Errno::EDQUOT],
                read_only: [SQLite3::ReadOnlyException, SQLite3::CantOpenException, SQLite3::IOException,
                            Errno::EROFS, Errno::EACCES, Errno::EPERM],
                damaged: [SQLite3::CorruptException, SQLite3::NotADatabaseException] }.freeze
    # Bytes that a look at the disk writes, and seconds that its answer counts.
    PROBE = 65_536
    PROBED = 2
    private_constant :TROUBLE, :PROBE, :PROBED

    # What a busy database is told by, wherever it is met.
    BUSY = [ActiveRecord::LockWaitTimeout, SQLite3::BusyException, SQLite3::LockedException].freeze

    # A newer version has written the database: this one would not understand all of it, and is better off without.
    class Newer < StandardError; end

    WRITING = :gate_mile_writing
    private_constant :WRITING

    PROBING = Mutex.new
    private_constant :PROBING

    class << self
      # @return [Integer] milliseconds that a transaction waits for another to end, on connections that open from now on
      attr_accessor :patience

      # @return [Float] seconds of a clock that never goes back
      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      # @param file [String]
      # @return [void]
      def connect(file = Settings.database)
        own(file)
        ActiveSupport.on_load(:active_record_sqlite3adapter) { prepend Patient }
        ActiveRecord::Base.establish_connection(adapter: "sqlite3", database: file, pool: 40, pragmas: PRAGMAS,
                                                flags: OPEN::READWRITE | OPEN::CREATE | UNLOCKED)
        ActiveRecord::Base.logger = nil
        Keys.load
      end

      # @param file [String] of a database
      # @return [Array<String>] what SQLite keeps beside it while it is used
      def beside(file) = %w[-wal -shm -journal].map { |ending| file + ending }

      # @param file [String] of a database that nobody has open
      # @return [void] removes it with what is beside it
      def remove(file) = FileUtils.rm_f([file, *beside(file)])

      # The shop is for whoever runs it, and nobody else on the machine: SQLite makes its other files alike.
      # @param file [String]
      # @return [void]
      def own(file)
        FileUtils.mkdir_p(File.dirname(file))
        File.write(file, "", mode: File::WRONLY | File::CREAT, perm: 0o600)
        [file, *beside(file)].each { |one| File.chmod(0o600, one) if File.exist?(one) }
      rescue Errno::EROFS, Errno::EACCES, Errno::EPERM
        nil
      end

      # Brings the tables to what this version knows.
      # @return [void]
      # @raise [Newer] where a newer version has written them
      def migrate
        ActiveRecord::Migration.verbose = false
        migrations = ActiveRecord::MigrationContext.new(MIGRATIONS)
        refuse_newer(migrations.get_all_versions)
        migrations.migrate
        # What a migration has erased does not live on in the log.
        ActiveRecord::Base.connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
      end

      # @param steps [Array<Integer>] migrations that a database has been through
      # @return [void]
      # @raise [Newer] where this version does not know all of them
      def refuse_newer(steps)
        known = Dir.children(MIGRATIONS).map(&:to_i)
        return if (steps - known).empty?

        raise Newer, "it was written by a newer version of Gate Mile (step #{steps.max} of its tables; " \
                     "this version knows #{known.max}): use that version, or a newer one"
      end

      # One consistent look at the database, whoever writes meanwhile.
      # @yield reads
      # @return [Object] what the block returns
      def read(&) = ActiveRecord::Base.transaction(&)

      # One transaction that writes, alone.
      # @yield reads and writes
      # @return [Object] what the block returns
      def write
        Thread.current[WRITING] = true
        ActiveRecord::Base.transaction do
          # Lazy transactions begin with their first statement: this one holds its lock from here on.
          ActiveRecord::Base.connection.materialize_transactions
          yield
        end
      ensure
        Thread.current[WRITING] = nil
      end

      # @param error [Exception]
      # @return [Symbol, nil] :full, :read_only or :damaged, by the error or what has led to it; nil for anything else
      def trouble(error)
        chain = []
        while error && !chain.include?(error)
          chain << error
          error = error.cause
        end
        TROUBLE.find { |_, kinds| chain.any? { |one| kinds.any? { |kind| one.is_a?(kind) } } }&.first
      end

      # @return [String, nil] why it does not answer, or why nothing can be written; nil where all is well
      def away
        return "The database is damaged. Bring back a backup." if damaged

        ActiveRecord::Base.connection.select_value("SELECT COUNT(*) FROM stores")
        unwritable
      rescue ActiveRecord::ActiveRecordError, SQLite3::Exception
        "The database does not answer."
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end

      # @return [Boolean] whether a look at its pages has found that it is damaged
      attr_accessor :damaged

      # @return [String, nil] why nothing can be written beside the database; nil where it can
      def unwritable
        PROBING.synchronize do
          return @unwritable if @probed && now - @probed < PROBED && @folder == File.dirname(Settings.database)

          @folder = File.dirname(Settings.database)
          @unwritable = probed
          @probed = now
          @unwritable
        end
      end

      # @return [Boolean] whether this thread is in {.write}
      def writing? = Thread.current[WRITING] == true

      private

      # A full disk is noticed before anybody's edit is refused.
      def probed
        file = File.join(@folder, ".probe-#{Process.pid}")
        File.open(file, "w", 0o600) do |out|
          out.write("\0" * PROBE)
          out.fsync
        end
        nil
      rescue SystemCallError => e
        { full: "The disk is full.", read_only: "The database's folder can't be written." }[trouble(e)] || e.message
      ensure
        FileUtils.rm_f(file)
      end
    end
    self.patience = PATIENCE
  end
end
