# frozen_string_literal: true

# Writes a backup of the shop, which may be running:  ruby server/commands/backup.rb FILE [--with-keys]

require_relative "../boot"
require "io/console"

keys = ARGV.delete("--with-keys")
file, more = ARGV
abort "usage: bin/backup FILE [--with-keys]" if file.nil? || more || file.start_with?("-")
abort "There is no shop here to back up (#{Server::Settings.database})." unless File.exist?(Server::Settings.database)

# @return [String] from the environment, or typed twice
def passphrase
  ENV.fetch("GATE_MILE_PASSPHRASE") do
    abort "Say the passphrase as GATE_MILE_PASSPHRASE, or where it can be typed." unless $stdin.tty?
    first, second = ["Passphrase: ", "Once more: "].map { |prompt| $stdin.getpass(prompt) }
    first == second ? first : abort("These are two different passphrases.")
  end
end

begin
  Server::Keys.load
  Server::Backup.write(file, passphrase: keys && passphrase)
rescue Server::Backup::Refused => e
  abort "No backup was made: #{e.message}."
end
held = keys ? "with the keys of secrets, locked by the passphrase" : "without the keys of secrets"
puts "#{file}: #{format("%.1f", File.size(file) / 1_048_576.0)} MB, #{held}."
