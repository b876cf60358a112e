# frozen_string_literal: true

module Server
  module Routes
    # Copies of the whole shop, without the keys of secrets: one now, and those of the nights.
    module Backups
      TYPE = "application/vnd.sqlite3"
      private_constant :TYPE

      def self.registered(app)
        app.get("/api/backups") { answer(Backups.list) }

        app.get "/api/backups/now" do
          name = "gate-mile-#{Time.now.utc.strftime("%Y-%m-%d-%H%M")}.backup.sqlite3"
          content_type TYPE
          attachment name
          headers "cache-control" => "no-store"
          Backups.made.tap { AuditLog.add_beside(:backup_taken) }
        end

        app.get "/api/backups/:date" do
          date = Nightly.dates.find { |one| one.iso8601 == params["date"] } or
            raise Problem.new(404, "There is no backup of that night.")
          headers "cache-control" => "no-store"
          AuditLog.add_beside(:backup_taken, about: date.iso8601)
          send_file Nightly.file(date), type: TYPE, disposition: :attachment
        end
      end

      class << self
        # @return [Hash] Backups of the contract
        def list
          { nights: Nightly.dates.map { |date| { date: date.iso8601, bytes: File.size(Nightly.file(date)) } } }
        end

        # @return [File] open, and of no name any more
        # @raise [Problem] 507
        def made
          file = File.join(Dir.tmpdir, "gate-mile-#{SecureRandom.hex(8)}.sqlite3")
          Backup.write(file)
          File.new(file, "rb").tap { File.unlink(file) }
        rescue Backup::Refused => e
          Log.fault(e, "making a backup")
          raise Problem.new(507, "No backup could be made: there is no room for it.")
        end
      end
    end
  end
end
