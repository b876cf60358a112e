# frozen_string_literal: true

# Runs the named test files, or all below the named folders:  ruby -Itest -Icore test/run.rb test/core test/server
# Commands that check something else (--check "npm run lint") run beside them, first of all.
# One file runs in this process; several run in processes of their own, as many at a time as there are processors, the
# longest first. What each of them says is shown when it is done, and what failed once more at the end. A browser file
# that failed runs a second time, with those it shares a process with: what passes then is told apart as unsteady.
require "etc"
require "fileutils"
require "open3"
require "tmpdir"

# Files that take long, and how long: whatever is not named takes a little.
LONG = { "browser" => 60, "server" => 25, "core" => 8 }.freeze
# In how many processes the files of a folder run: to load takes longer than many of them do.
TOGETHER = { "core" => 3, "server" => 6, "browser" => 13 }.freeze
# Files that take so long that they run by themselves, before all others.
ALONE = %w[test/server/perf_test.rb].freeze

def run_here(files)
  require "minitest/autorun"
  ARGV.clear
  files.each { |file| require File.expand_path(file) }
end

# Files of the core and of the server share processes; each browser file has one of its own.
def jobs(files)
  files.group_by { |file| TOGETHER[file[%r{test/(\w+)/}, 1]] unless ALONE.include?(file) }.flat_map do |count, list|
    next list.map { |file| [file] } unless count

    list.sort_by { |file| -File.size(file) }.each_with_index.group_by { |_, at| at % count }.values.map { |pairs| pairs.map(&:first) }
  end.sort_by do |group|
    next -Float::INFINITY if ALONE.intersect?(group)

    -group.sum { |file| LONG.fetch(file[%r{test/(\w+)/}, 1].to_s, 5) + (File.size(file) / 2000) }
  end
end

# One process for these files, or of a command that checks something else: then that stands for a file.
Outcome = Struct.new(:files, :said, :passed, :took, keyword_init: true) do
  # @return [Hash{String => Integer}] how many runs, assertions, failures, errors and skips it tells
  def counts
    said.scan(/(\d+) (runs|assertions|failures|errors|skips)(?=,|$)/)
        .each_with_object(Hash.new(0)) { |(count, name), sums| sums[name] += count.to_i }
  end

  def browser? = files.all? { |file| file.include?("test/browser/") }
  def tell = puts(format("== %<files>s (%<took>.0f s)", files: files.join(" "), took: took), said, "")

  # From the first failure on, so that the end of a long output says what it was; of a process that broke down, where.
  def tell_failures
    broken = said[/^.*\[BUG\].*/m].to_s.lines.first(60).join.then { |text| text unless text.empty? }
    puts("== Failed: #{files.join(" ")}", said[/^ +1\) .*/m] || broken || said.lines.last(40).join, "")
  end
end

def run_group(files)
  started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  command = files.first.include?(" ") ? files.first.split : [RbConfig.ruby, "-Itest", "-Icore", __FILE__, "--here", *files]
  said, status = Open3.capture2e(*command)
  Outcome.new(files: files, said: said, passed: status.success?, took: Process.clock_gettime(Process::CLOCK_MONOTONIC) - started)
end

def run_all(queue)
  lock = Mutex.new
  outcomes = []
  workers = Array.new(Integer(ENV["GMW"] || [Etc.nprocessors, 2].max)) do
    Thread.new do
      while (files = queue.pop)
        outcome = run_group(files)
        lock.synchronize do
          outcome.tell
          outcomes << outcome
        end
      end
    end
  end
  workers.each(&:join)
  outcomes
end

def run_apart(files, checks)
  queue = Queue.new
  checks.each { |check| queue << [check] }
  jobs(files).each { |group| queue << group }
  # What tests make once for all of them.
  ENV["GATE_MILE_TEST_MADE"] = Dir.mktmpdir("gate-mile-made")
  at_exit { FileUtils.rm_rf(ENV.fetch("GATE_MILE_TEST_MADE")) }
  outcomes = run_all(queue.close)
  again = outcomes.reject(&:passed).select(&:browser?).to_h { |outcome| [outcome, run_group(outcome.files).tap(&:tell)] }
  unsteady = again.select { |_, second| second.passed }.keys
  outcomes.map! { |outcome| again.fetch(outcome, outcome) }
  (unsteady + outcomes.reject(&:passed)).each(&:tell_failures)
  totals = outcomes.map(&:counts).each_with_object(Hash.new(0)) { |counts, sums| counts.each { |name, count| sums[name] += count } }
  bad = totals["failures"] + totals["errors"]
  unsteady.each { |outcome| puts "Unsteady, passed at the second run: #{outcome.files.join(" ")}" }
  puts(%w[runs assertions failures errors skips].map { |name| "#{totals[name]} #{name}" }.join(", "),
       "#{totals["runs"] - bad} passed, #{bad} failed")
  exit(outcomes.all?(&:passed) && totals["runs"].positive?)
end

here = ARGV.delete("--here")
checks = []
while (at = ARGV.index("--check"))
  checks << ARGV.slice!(at, 2).last
end
files = ARGV.flat_map { |path| File.directory?(path) ? Dir[File.join(path, "**", "*_test.rb")] : [path] }
here || (files.size == 1 && checks.empty?) ? run_here(files) : run_apart(files, checks)
