# frozen_string_literal: true

# Makes new keys for secrets beside the old ones:  ruby server/commands/keys.rb --rotate

require_relative "../boot"

abort "usage: bin/keys --rotate" unless ARGV == ["--rotate"]
Server::Keys.rotate
puts "#{Server::Keys.file} has new keys. Start the server anew: it then writes every secret with them.",
     "What the old keys wrote is read still, in older backups too, as long as they stand in that file."
