# frozen_string_literal: true

# Prepares the database:  ruby server/prepare.rb [--empty] [--fresh]
# Migrates it and, where it holds no shop yet, loads the demo shop. --fresh removes what is there first; --empty leaves
# the shop to be opened in the browser.

require_relative "boot"

if ARGV.include?("--fresh")
  %w[-wal -shm].unshift("").each { |ending| FileUtils.rm_f(Server::Settings.database + ending) }
end
Server::Database.connect
Server::Database.migrate
return if Server::Records::Store.current || ARGV.include?("--empty")

Server::Demo.load
