# frozen_string_literal: true

require "minitest/autorun"
require "open3"
require "socket"
require "tmpdir"

# Every benchmark still runs, and says so where what it asks is refused: a figure that was measured on refusals is worse than none.
class PerfTest < Minitest::Test
  ROOT = File.expand_path("../..", __dir__)
  # What others share, and what compares with another checkout.
  PARTS = %w[over_http page stack sizes served quote_servers alike demo].freeze
  SCRIPTS = Dir[File.join(ROOT, "perf/*.rb")].map { |file| File.basename(file, ".rb") } - PARTS
  # One in this process and one over HTTP: each asks what wants an account where there are accounts.
  ASKING = %w[lines http].freeze

  def run_tiny(name, **env)
    # Nothing of what this process has set for itself is theirs, but what all share is made once.
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

  DEMO = Dir.mktmpdir("gate-mile-demo")
  Minitest.after_run { FileUtils.rm_rf(DEMO) }

  SCRIPTS.each do |name|
    define_method("test_#{name}_runs") do
      said, done = run_tiny(name)
      assert_predicate done, :success?, said
      refute_match(/\b(NaN|Infinity)\b/, said)
      assert_match(/\d/, said)
    end
  end

  ASKING.each do |name|
    define_method("test_#{name}_fails_where_it_is_refused") do
      said, done = run_tiny(name, GATE_MILE_ACCOUNTS: "1")
      refute_predicate done, :success?, said
      assert_match(/401|refused|answered/, said)
    end
  end
end
