# frozen_string_literal: true

# Twenty thousand requests that nobody should send, over all doors: none may break the server, and none that is refused
# may change anything.
#   bundle exec ruby perf/fuzz.rb [COUNT] [SEED]

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
$LOAD_PATH.unshift(File.expand_path("../test", __dir__), File.expand_path("../core", __dir__))
require "minitest"
require_relative "sizes"
# Nothing of it is a test to be run.
Minitest.singleton_class.define_method(:autorun) { nil }
require_relative "../test/support/fuzz"

count, seed = ARGV.map { |text| Integer(text) }
fuzz = Fuzz.new(Random.new(seed || 1))
fuzz.run(count || sized(20_000, 40))
puts "#{fuzz.asked} requests: #{fuzz.answers.sort.map { |status, times| "#{status} #{times} times" }.join(", ")}"
puts "wrong: #{fuzz.wrong.size}", *fuzz.wrong.first(20)
exit(fuzz.wrong.empty?)
