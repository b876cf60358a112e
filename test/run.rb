# frozen_string_literal: true

# Runs the named test files, or all below the named folders:  ruby -Itest -Icore test/run.rb test/core test/server
# One file runs in this process; several run in processes of their own, as many at a time as there are processors, the
# longest first. What each of them says is shown when it is done.
require "etc"
require "open3"

# Files that take long, and how long: whatever is not named takes a little.
LONG = { "browser" => 60, "server" => 25, "core" => 8 }.freeze
CORE_TOGETHER = 3

def run_here(files)
  require "minitest/autorun"
  ARGV.clear
  files.each { |file| require File.expand_path(file) }
end

# Core files are quick to load and share a process; the others have a server of their own each.
def jobs(files)
  core, others = files.partition { |file| file.include?("test/core/") }
  groups = core.sort_by { |file| -File.size(file) }.each_with_index.group_by { |_, at| at % CORE_TOGETHER }
               .values.map { |pairs| pairs.map(&:first) }
  sorted = (others.map { |file| [file] } + groups).sort_by do |group|
    -group.sum { |file| LONG.fetch(file[%r{test/(\w+)/}, 1].to_s, 5) + (File.size(file) / 2000) }
  end
  Queue.new.tap { |queue| sorted.each { |group| queue << group } }
end

def run_apart(files)
  lock = Mutex.new
  totals = Hash.new(0)
  failed = []
  queue = jobs(files)
  workers = Array.new([Etc.nprocessors, 2].max) do
    Thread.new do
      until queue.empty?
        group = begin
          queue.pop(true)
        rescue ThreadError
          break
        end
        started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        said, status = Open3.capture2e(RbConfig.ruby, "-Itest", "-Icore", __FILE__, "--here", *group)
        took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
        lock.synchronize do
          puts format("== %<files>s (%<took>.0f s)", files: group.join(" "), took: took), said, ""
          failed << group unless status.success?
          said.scan(/(\d+) (runs|assertions|failures|errors|skips)(?=,|$)/) { |count, name| totals[name] += count.to_i }
        end
      end
    end
  end
  workers.each(&:join)
  bad = totals["failures"] + totals["errors"]
  puts "Failed: #{failed.flatten.join(" ")}" if failed.any?
  puts format("%<runs>d runs, %<assertions>d assertions, %<failures>d failures, %<errors>d errors, %<skips>d skips",
              %w[runs assertions failures errors skips].to_h { |name| [name.to_sym, totals[name]] })
  puts "#{totals["runs"] - bad} passed, #{bad} failed"
  exit(failed.empty? && totals["runs"].positive?)
end

here = ARGV.delete("--here")
files = ARGV.flat_map { |path| File.directory?(path) ? Dir[File.join(path, "**", "*_test.rb")] : [path] }
here || files.size == 1 ? run_here(files) : run_apart(files)
