# frozen_string_literal: true

# Quotes with all kinds of trouble at random: none is lost, none is wrong, and memory stays level.
#   bundle exec ruby perf/soak.rb [2000]

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_OUTGOING"] ||= "127.0.0.1"

ENV["GATE_MILE_DATABASE"] ||= File.join(Dir.mktmpdir, "soak.sqlite3")
require_relative "../server/boot"
require_relative "../test/support/soak"

Server::Database.connect
Server::Database.migrate
Server::Demo.load
count = Integer(ARGV.first || sized("2000", "12"))
memory = -> { File.read("/proc/self/statm").split[1].to_i * 4 / 1024.0 }
soak = Soak.new(Random.new(1), deadline: 0.25)
soak.run(count / 4)
GC.start
before = memory.call
soak.run(count - (count / 4))
GC.start
puts format("%<count>d quotes: %<lost>d lost, %<wrong>d wrong; " \
            "ratio: memory %<ratio>.2f of what it was after the first quarter",
            count: soak.asked, lost: soak.lost, wrong: soak.wrong.size, ratio: memory.call / before)
puts soak.outcomes.sort.map { |outcome, times| "#{outcome} #{times}" }.join(", ")
soak.wrong.first(5).each { |told| puts told }
exit 1 if soak.lost.positive? || soak.wrong.any? || soak.outcomes.empty?
