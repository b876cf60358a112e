# frozen_string_literal: true

# Whether two checkouts of the core answer alike, to the byte: quotes with their reckonings, boards, findings, price
# lines, next gates, margins and class tables of generated books and carts of every kind, and of the demo.
#   bundle exec ruby perf/alike.rb OTHER_CHECKOUT     e.g. one that `git worktree add ../before 47c41c4` made
# Prints the kinds of cases with how many differ, and the first differences. ends with 1 where there are any.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"

ROOT = File.expand_path("..", __dir__)
MOST_SHOWN = 4

# Compares what two recordings say, case by case.
class Comparing
  def initialize(other)
    @cores = [other, ROOT].map { |root| File.join(File.expand_path(root), "core") }
  end

  # @return [Boolean] whether they say the same
  def alike?
    differing = Hash.new(0)
    counts = Hash.new(0)
    each_pair do |one, two|
      counts[one[0]] += 1
      next if one == two

      differing[one[0]] += 1
      show(one, two) if differing.values.sum <= MOST_SHOWN
    end
    counts.each do |kind, count|
      puts format("%<kind>-9s %<count>5d cases, %<bad>d differ", kind: kind, count: count, bad: differing[kind])
    end
    puts format("%<count>d cases in all, %<bad>d differ", count: counts.values.sum, bad: differing.values.sum)
    differing.empty?
  end

  private

  def each_pair
    readers = @cores.map { |core| IO.popen([RbConfig.ruby, __FILE__, "--record", core]) }
    until readers.any?(&:eof?)
      one, two = readers.map { |io| JSON.parse(io.gets) }
      yield one, two
    end
    abort "one of them came to an end early" unless readers.all?(&:eof?)
  ensure
    readers.each(&:close)
  end

  def show(one, two)
    puts "#{one[0]} #{one[1]}:"
    differences(one[2], two[2]).first(6).each do |place, left, right|
      puts "  #{place}\n    before #{left}\n    now    #{right}"
    end
  end

  def differences(left, right, place = "")
    return [] if left == right
    if left.is_a?(Hash) && right.is_a?(Hash)
      return keys(left, right).flat_map do |key|
        differences(left[key], right[key], "#{place}/#{key}")
      end
    end

    if left.is_a?(Array) && right.is_a?(Array)
      return Array.new([left.size, right.size].max) do |at|
        differences(left[at], right[at], "#{place}/#{at}")
      end.flatten(1)
    end

    [[place, JSON.generate(left)[0, 300], JSON.generate(right)[0, 300]]]
  end

  def keys(left, right) = left.keys | right.keys
end

if ARGV.first == "--record"
  require_relative "../test/support/recording"
  Recording.new(ARGV.fetch(1)).print_all
  $stdout.flush
  exit!
end
abort "usage: bundle exec ruby perf/alike.rb OTHER_CHECKOUT" unless ARGV.size == 1
exit Comparing.new(ARGV.first).alike?
