# frozen_string_literal: true

# Runs the core's property tests with many rounds: twenty times as many as their full number, or TIMES as many
# (bin/test runs a quarter). Fails if a property does not hold.
#   bundle exec ruby perf/properties.rb [TIMES] [FILE...]

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "rbconfig"
require_relative "sizes"

times, *files = ARGV
files = sized(Dir["test/core/**/*_test.rb"], ["test/core/promises/clock_test.rb"]) if files.empty?
rounds = (times || sized(20, 0.04)).to_f * 0.25
done = system({ "GATE_MILE_ROUNDS" => rounds.to_s }, RbConfig.ruby, "-Itest", "-Icore", "test/run.rb", *files,
              chdir: File.expand_path("..", __dir__))
exit(done)
