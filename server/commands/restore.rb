# frozen_string_literal: true

# Puts a backup where there is no shop yet:  ruby server/commands/restore.rb FILE [--without-keys]

require_relative "../boot"
require "io/console"

without = ARGV.delete("--without-keys")
file, more = ARGV
abort "usage: bin/restore FILE [--without-keys]" if file.nil? || more || file.start_with?("-")

asking = lambda do
  ENV.fetch("GATE_MILE_PASSPHRASE") do
    unless $stdin.tty?
      abort "It holds keys: say the passphrase as GATE_MILE_PASSPHRASE, or leave them with --without-keys."
    end
    $stdin.getpass("Passphrase: ")
  end
end

begin
  told = Server::Restore.read(file, passphrase: without ? nil : asking)
rescue Server::Restore::Refused => e
  abort "Nothing was restored: #{e.message}."
end
counts = told.counts.map { |table, count| "#{count} #{Server::Restore::COUNTED[table][count == 1 ? 0 : 1]}" }
puts "#{told.shop || "No shop yet"}, as of #{told.made_at}: #{counts.join(", ")}."
puts "The secrets of these carriers have to be typed again: #{told.lost.join(", ")}." if told.lost.any?
