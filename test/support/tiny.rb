# frozen_string_literal: true

require "fileutils"
require "minitest/autorun"
require "open3"
require "rbconfig"
require "socket"
require "tmpdir"

# Runs a benchmark of perf/ so small that it measures nothing: whether it still runs, and what it does with refusals.
module Tiny
  ROOT = File.expand_path("../..", __dir__)
  # What all of them share is made once.
  DEMO = Dir.mktmpdir("gate-mile-demo")
  Minitest.after_run { FileUtils.rm_rf(DEMO) }

  # @param name [String] of the script
  # @param env [Hash] variables of its environment
  # @return [Array(String, Process::Status)] what it printed, and how it ended
  def run_tiny(name, **env)
    # Settings of this process are not the script's.
    alone = ENV.keys.grep(/\AGATE_MILE_/).to_h { |variable| [variable, nil] }
    tiny = { **alone, "GATE_MILE_PERF" => "tiny", "GATE_MILE_PERF_DEMO" => DEMO, "GATE_MILE_PERF_PORT" => free_ports.to_s, **env.transform_keys(&:to_s) }
    Open3.capture2e(tiny, "bundle", "exec", RbConfig.ruby, "perf/#{name}.rb", chdir: ROOT)
  end

  # The first of twenty ports in a row that nobody uses.
  def free_ports
    (21_000..60_000).step(20).to_a.shuffle.find do |first|
      (first...(first + 20)).each { |port| TCPServer.open("127.0.0.1", port, &:close) }
    rescue SystemCallError
      false
    end
  end
end
