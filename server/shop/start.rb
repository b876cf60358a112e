# frozen_string_literal: true

module Server
  # How a server, and whatever prepares its database, comes to hold the database: alone, and brought up to date. What
  # stands in the way is said in one sentence.
  module Start
    SENTENCES = {
      read_only: "it can't be written. Give the account that runs Gate Mile write access to it and to its folder",
      full: "the disk is full. Make room and start again",
      damaged: "it is damaged. Move it away and bring back a backup with bin/restore (docs/backup.md)"
    }.freeze
    private_constant :SENTENCES

    class << self
      # @return [void] ends the process with a sentence where the database can't be used
      def database
        FolderLock.take
        Database.connect
        Database.migrate
        LongChange.recover
      rescue FolderLock::Taken => e
        abort "Gate Mile does not start: #{e.message}."
      rescue StandardError => e
        why = trouble(e) or raise
        abort "Gate Mile does not start: #{Settings.database} can't be used: #{why}."
      end

      # @param error [StandardError]
      # @return [String, nil] what it means for a database; nil where it is something else
      def trouble(error)
        error.is_a?(Database::Newer) ? error.message : SENTENCES[Database.trouble(error)]
      end
    end
  end
end
