# frozen_string_literal: true

# Prepares the database:  ruby server/prepare.rb [--empty] [--fresh] [--open]
# Migrates it and, where it holds no shop yet, loads the demo shop. --fresh removes what is there first; --empty leaves
# the shop to be opened in the browser; --open publishes a demo that was just loaded, and makes keys for its shop.

require_relative "boot"

if ARGV.include?("--fresh") && File.exist?(Server::Settings.database)
  FileUtils.mkdir_p(Server::Nightly.folder, mode: 0o700)
  kept = File.join(Server::Nightly.folder, "before-fresh-#{Time.now.strftime("%Y%m%d-%H%M%S")}.sqlite3")
  begin
    Server::Backup.write(kept)
    puts "What was there is kept as #{kept} (bin/restore)."
  rescue Server::Backup::Refused => e
    abort "What is there could not be kept first (#{e.message}), so it was not removed: #{Server::Settings.database}"
  end
  %w[-wal -shm].unshift("").each { |ending| FileUtils.rm_f(Server::Settings.database + ending) }
end
Server::Database.connect
begin
  Server::Database.migrate
rescue Server::Database::Newer => e
  abort "#{Server::Settings.database} can't be used: #{e.message}."
end
return if Server::Records::Store.current || ARGV.include?("--empty")

Server::Demo.load
Server::Demo.open_door if ARGV.include?("--open")
