# frozen_string_literal: true

require "fileutils"
require "json"

# How long tests take: each process of a run writes down its own, and the next run balances its processes by it.
module Clock
  # The folder that the processes of one run write to.
  VARIABLE = "GATE_MILE_TEST_TIMES"
  # Of this machine's last runs, over what was last committed.
  LAST = File.expand_path("../../tmp/test-times.json", __dir__)
  COMMITTED = File.expand_path("../times.json", __dir__)

  class << self
    # In a process that runs tests: what each took is written down when the last is over.
    # @return [void]
    def keep
      folder = ENV.fetch(VARIABLE, nil) or return
      started = now
      tests = []
      Minitest.after_run { File.write(File.join(folder, "#{Process.pid}.json"), JSON.generate("whole" => now - started, "tests" => tests)) }
      Minitest.extensions << "gate_mile_clock"
      Minitest.define_singleton_method(:plugin_gate_mile_clock_init) { |_| reporter << Kept.new(tests) }
    end

    # @param folder [String] that processes wrote to
    # @return [Array<Array>] file, test and seconds of each test, the slowest first
    def tests(folder)
      Dir[File.join(folder, "*.json")].flat_map { |file| JSON.parse(File.read(file))["tests"] }.sort_by { |_, _, seconds| -seconds }
    end

    # @return [Hash{String => Float}] seconds by file, or by command
    def last = [COMMITTED, LAST].select { |file| File.exist?(file) }.map { |file| JSON.parse(File.read(file)) }.reduce({}, :merge)

    # Keeps what a run took beside what is known of others.
    # @param seconds [Hash{String => Float}] by file, or by command
    # @return [void]
    def keep_last(seconds)
      kept = last.merge(seconds.transform_values { |value| value.round(1) }).sort.to_h
      FileUtils.mkdir_p(File.dirname(LAST))
      File.write("#{LAST}.new", "#{JSON.pretty_generate(kept)}\n")
      File.rename("#{LAST}.new", LAST)
    end

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  end

  # Hears of each test when it is over.
  class Kept
    def initialize(tests) = @tests = tests

    def record(result)
      file = result.source_location.first.delete_prefix("#{File.expand_path("../..", __dir__)}/")
      @tests << [file, "#{result.klass}##{result.name}", result.time.round(3)]
    end

    def prerecord(*) = nil
    def start = nil
    def report = nil
    def passed? = true
  end
end
