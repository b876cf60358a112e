# frozen_string_literal: true

module Server
  # The number of the setup's revision as it is stored, read by each thread on a connection of its own that does nothing
  # else: a quote asks for it every time.
  module Revision
    KEY = :gate_mile_revision
    SQL = "SELECT revision FROM stores WHERE id = 1"
    private_constant :KEY, :SQL

    class << self
      # @return [Integer] 0 before there is a shop
      def now
        file = Settings.database
        open = Thread.current[KEY]
        open = Thread.current[KEY] = [file, statement(file)] unless open&.first == file
        open.last.execute.next&.first.to_i
      ensure
        open&.last&.reset!
      end

      private

      def statement(file)
        database = SQLite3::Database.new(file, flags: SQLite3::Constants::Open::READONLY | Database::UNLOCKED)
        database.busy_handler_timeout = Database.patience
        database.prepare(SQL)
      end
    end
  end
end
