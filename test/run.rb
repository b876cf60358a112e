# frozen_string_literal: true

# Runs the named test files, or all below the named folders:  ruby -Itest -Icore test/run.rb test/core test/server
# Commands that check something else (--check "npm run lint") run beside them, first of all.
# One file runs in this process; several run in processes of their own, as many at a time as there are processors, shared
# out by what they took last (tmp/test-times.json, over test/times.json), the longest first. What each of them says is
# shown when it is done, and what failed once more at the end, with the ten slowest tests. A browser file that failed
# runs a second time, together with the files in its process; if it then passes, it is listed as unsteady.
# With --changed, only what the differences to the last commit can touch.
require "etc"
require "fileutils"
require "open3"
require "tmpdir"
require_relative "runner/clock"
require_relative "runner/share"
require_relative "runner/touched"

SLOWEST = 10

def run_here(files)
  require "minitest/autorun"
  Clock.keep
  ARGV.clear
  files.each { |file| require File.expand_path(file) }
end

# One process for these files, or of a command that checks something else: then that stands for a file.
Outcome = Struct.new(:files, :said, :passed, :took, keyword_init: true) do
  # @return [Hash{String => Integer}] how many runs, assertions, failures, errors and skips it tells
  def counts
    said.scan(/(\d+) (runs|assertions|failures|errors|skips)(?=,|$)/)
        .each_with_object(Hash.new(0)) { |(count, name), sums| sums[name] += count.to_i }
  end

  def command? = files.first.include?(" ")
  def browser? = files.all? { |file| file.include?("test/browser/") }
  def tell = puts(format("== %<files>s (%<took>.0f s)", files: files.join(" "), took: took), said, "")

  # From the first failure on, so that the end of a long output says what it was; of a process that broke down, where.
  def tell_failures
    broken = said[/^.*\[BUG\].*/m].to_s.lines.first(60).join.then { |text| text unless text.empty? }
    puts("== Failed: #{files.join(" ")}", said[/^ +1\) .*/m] || broken || said.lines.last(40).join, "")
  end
end

def run_group(files)
  started = Clock.now
  command = files.first.include?(" ") ? files.first.split : [RbConfig.ruby, "-Itest", "-Icore", __FILE__, "--here", *files]
  said, status = Open3.capture2e(*command)
  Outcome.new(files: files, said: said, passed: status.success?, took: Clock.now - started)
end

def run_all(queue)
  lock = Mutex.new
  outcomes = []
  workers = Array.new([Etc.nprocessors, 2].max) do
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

# Commands and groups of files, the longest first.
def queued(files, checks)
  last = Clock.last
  groups = checks.map { |check| [check] } + Share.of(files, last)
  groups.sort_by { |group| -Share.seconds(group, last) }.each_with_object(Queue.new) { |group, queue| queue << group }.close
end

# What each file and each command took is what the next run shares out by.
def tell_times(outcomes, folder)
  tests = Clock.tests(folder)
  Clock.keep_last(tests.group_by(&:first).transform_values { |list| list.sum(&:last) }.merge(
                    outcomes.select(&:command?).to_h { |outcome| [outcome.files.first, outcome.took] }
                  ))
  puts("The slowest of #{tests.size} tests:", tests.first(SLOWEST).map do |file, name, took|
    format("%<took>6.1f s  %<name>s  %<file>s", took: took, name: name, file: file)
  end)
end

def run_apart(files, checks)
  # Files that tests share, and how long each test took.
  folders = { "GATE_MILE_TEST_MADE" => "made", Clock::VARIABLE => "times" }.transform_values { |name| Dir.mktmpdir("gate-mile-#{name}") }
  ENV.update(folders)
  at_exit { FileUtils.rm_rf(folders.values) }
  outcomes = run_all(queued(files, checks))
  again = outcomes.reject(&:passed).select(&:browser?).to_h { |outcome| [outcome, run_group(outcome.files).tap(&:tell)] }
  unsteady = again.select { |_, second| second.passed }.keys
  outcomes.map! { |outcome| again.fetch(outcome, outcome) }
  (unsteady + outcomes.reject(&:passed)).each(&:tell_failures)
  tell_times(outcomes, folders.fetch(Clock::VARIABLE))
  totals = outcomes.map(&:counts).each_with_object(Hash.new(0)) { |counts, sums| counts.each { |name, count| sums[name] += count } }
  bad = totals["failures"] + totals["errors"]
  unsteady.each { |outcome| puts "Unsteady, passed at the second run: #{outcome.files.join(" ")}" }
  puts(%w[runs assertions failures errors skips].map { |name| "#{totals[name]} #{name}" }.join(", "),
       "#{totals["runs"] - bad} passed, #{bad} failed")
  exit(outcomes.all?(&:passed) && totals["runs"].positive?)
end

here = ARGV.delete("--here")
ARGV.concat(Touched.by(Touched.now)) if ARGV.delete("--changed")
checks = []
while (at = ARGV.index("--check"))
  checks << ARGV.slice!(at, 2).last
end
files = ARGV.uniq.flat_map { |path| File.directory?(path) ? Dir[File.join(path, "**", "*_test.rb")] : [path] }
abort "Nothing changed that a test is about." if files.empty? && checks.empty?
here || (files.size == 1 && checks.empty?) ? run_here(files) : run_apart(files, checks)
