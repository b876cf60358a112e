# frozen_string_literal: true

require "fileutils"
require_relative "served"

# The demo in a database of its own. Where GATE_MILE_PERF_DEMO names a folder, it is made there once and copied from
# then on: a test that runs all benchmarks loads it once.
module DemoShop
  ROOT = File.expand_path("..", __dir__)
  private_constant :ROOT

  class << self
    # @param database [String] a file that is not there yet
    # @return [void]
    def into(database)
      kept = ENV.fetch("GATE_MILE_PERF_DEMO", nil) or return prepare(database)
      ready = File.join(kept, "demo.sqlite3")
      prepare(ready) unless File.exist?(ready)
      FileUtils.mkdir_p(File.dirname(database))
      FileUtils.cp(ready, database)
      FileUtils.cp(File.join(kept, "keys.json"), File.join(File.dirname(database), "keys.json"))
    end

    private

    def prepare(database)
      env = { "GATE_MILE_DATABASE" => database, **AS_SERVED }
      system(env, "bundle", "exec", "ruby", "server/prepare.rb", chdir: ROOT, exception: true)
    end
  end
end
