# frozen_string_literal: true

# Prepares the database:  ruby server/prepare.rb [--empty] [--fresh] [--open]
# Migrates it and, where it holds no shop yet, loads the demo shop. --fresh removes what is there first; --empty leaves
# the shop to be opened in the browser; --open publishes a demo that was just loaded, and makes keys for its shop.

require_relative "boot"

begin
  Server::FolderLock.take
rescue Server::FolderLock::Taken => e
  abort "Gate Mile does not start: #{e.message}."
rescue SystemCallError
  nil # said once the database is opened
end
if ARGV.include?("--fresh") && File.exist?(Server::Settings.database)
  FileUtils.mkdir_p(Server::Nightly.folder, mode: 0o700)
  kept = File.join(Server::Nightly.folder, "before-fresh-#{Time.now.strftime("%Y%m%d-%H%M%S")}.sqlite3")
  begin
    Server::Backup.write(kept)
    puts "What was there is kept as #{kept} (bin/restore)."
  rescue Server::Backup::Refused => e
    abort "What is there could not be kept first (#{e.message}), so it was not removed: #{Server::Settings.database}"
  end
  Server::Database.remove(Server::Settings.database)
end
Server::Start.database
return if Server::Records::Store.current || ARGV.include?("--empty")

Server::Demo.load
Server::Demo.open_door if ARGV.include?("--open")
