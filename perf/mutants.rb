# frozen_string_literal: true

# What the tests don't notice: changes so many places of each room at random, one at a time in a copy, runs the tests
# that reach the place, and lists the changes that none of them noticed.
#   bundle exec ruby perf/mutants.rb                            (three places of each room of core/)
#   bundle exec ruby perf/mutants.rb --part server --each 2 --seed 7
#   bundle exec ruby perf/mutants.rb --at core/gate_mile/geography/zones.rb:67
# Wanted: fewer than one in ten survive in core/, fewer than one in six in server/.

require "bundler/setup"
require "English"
require "etc"
require "fileutils"
require "json"
require "open3"
require "optparse"
require "prism"
require "rbconfig"
require "timeout"
require "tmpdir"
require_relative "sizes"

ROOT = File.expand_path("..", __dir__)

# Finds places, tests and survivors.
module Mutants
  # One change of one place: file, line, offsets of the bytes that go, and what comes instead.
  Mutant = Struct.new(:file, :line, :from, :to, :text) do
    # @return [String] the file with this change
    def applied
      source = File.binread(File.join(ROOT, file))
      (source[0...from] + text + source[to..]).force_encoding("UTF-8")
    end

    # @return [String]
    def said
      source = File.binread(File.join(ROOT, file))
      whole = source.lines[line - 1].force_encoding("UTF-8").strip
      "#{file}:#{line}  #{source[from...to]} → #{text}   in: #{whole}"
    end
  end

  # The changes that a file allows: comparisons, their ends, connections, sums, numbers, and which of several is taken.
  class Places < Prism::Visitor
    CALLS = { ">=": ">", ">": ">=", "<=": "<", "<": "<=", "==": "!=", "!=": "==", "+": "-", "-": "+", "*": "+",
              all?: "any?", any?: "all?", none?: "any?", empty?: "any?", min: "max", max: "min", min_by: "max_by",
              max_by: "min_by", first: "last", last: "first", ceil: "floor", floor: "ceil", round: "floor",
              positive?: "zero?", select: "reject", reject: "select", equal?: "nil?", sum: "count" }.freeze
    private_constant :CALLS

    # @return [Array<Mutant>]
    attr_reader :list

    # @param file [String] below the root
    def initialize(file)
      super()
      @file = file
      @list = []
      visit(Prism.parse_file(File.join(ROOT, file)).value)
    end

    def visit_call_node(node)
      instead = CALLS[node.name] and node.message_loc && node.receiver && note(node.message_loc, instead)
      super
    end

    def visit_and_node(node)
      note(node.operator_loc, node.operator == "and" ? "or" : "||")
      super
    end

    def visit_or_node(node)
      note(node.operator_loc, node.operator == "or" ? "and" : "&&")
      super
    end

    def visit_integer_node(node)
      note(node.location, (node.value + 1).to_s)
      super
    end

    def visit_true_node(node) = note(node.location, "false")
    def visit_false_node(node) = note(node.location, "true")

    def visit_unless_node(node)
      note(node.keyword_loc, "if")
      super
    end

    private

    def note(place, text) = @list << Mutant.new(@file, place.start_line, place.start_offset, place.end_offset, text)
  end

  # Which test files reach a line: found out once, by running each of them by itself.
  class Reached
    COVER = <<~RUBY
      require "coverage"
      require "json"
      Coverage.start(oneshot_lines: true)
      require "minitest"
      Minitest.after_run do
        root = Dir.pwd + "/"
        lines = Coverage.result.select { |file, _| file.start_with?(root) }
        File.write(ENV.fetch("REACHED"), JSON.generate(lines.to_h { |file, found| [file.delete_prefix(root), found[:oneshot_lines]] }))
      end
    RUBY

    # @param tests [Array<String>]
    def initialize(tests)
      @took = {}
      @lines = {}
      Dir.mktmpdir do |folder|
        File.write(cover = File.join(folder, "cover.rb"), COVER)
        found = tests.map { |test| [test, measured(test, cover, File.join(folder, test.tr("/", "-")))] }
        found.each do |test, lines|
          lines.each do |file, numbers|
            numbers.each do |line|
              (@lines[[file, line]] ||= []) << test
            end
          end
        end
      end
    end

    # @param mutant [Mutant]
    # @return [Array<String>] the quickest first
    def by(mutant)
      # An expression over several lines counts at its first.
      line = mutant.line.downto(1).find { |one| @lines.key?([mutant.file, one]) }
      @lines.fetch([mutant.file, line], []).sort_by { |test| @took[test] }
    end

    private

    def measured(test, cover, into)
      started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      said, done = Open3.capture2e({ "REACHED" => into }, RbConfig.ruby, "-r", cover, "-Itest", "-Icore", "test/run.rb",
                                   "--here", test, chdir: ROOT)
      abort "#{test} fails as it is:\n#{said.lines.last(20).join}" unless done.success?

      @took[test] = Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
      JSON.parse(File.read(into))
    end
  end

  # A copy of the project in which one change after the other is tried.
  class Bench
    # Seconds that one test file may take: what never ends was noticed.
    LONGEST = 240

    def initialize
      @folder = Dir.mktmpdir
      at_exit { FileUtils.rm_rf(@folder) }
      files = IO.popen(%w[git ls-files -co --exclude-standard -z], chdir: ROOT, &:read).split("\0")
      system("cp", "--parents", *files.select do |file|
        File.file?(File.join(ROOT, file))
      end, @folder, chdir: ROOT, exception: true)
      %w[vendor web/dist web/node_modules .bundle].each do |part|
        FileUtils.ln_s(File.join(ROOT, part), File.join(@folder, part)) if File.exist?(File.join(ROOT, part))
      end
    end

    # @return [Boolean] whether none of the tests noticed it
    def survives?(mutant, tests)
      file = File.join(@folder, mutant.file)
      File.write(file, mutant.applied)
      tests.all? { |test| passes?(test) }
    ensure
      FileUtils.cp(File.join(ROOT, mutant.file), file)
    end

    private

    def passes?(test)
      pid = spawn(RbConfig.ruby, "-Itest", "-Icore", "test/run.rb", "--here", test, chdir: @folder, pgroup: true,
                                                                                    %i[out err] => File::NULL)
      Timeout.timeout(LONGEST) { Process.wait(pid) }
      $CHILD_STATUS.success?
    rescue Timeout::Error
      Process.kill(:KILL, -pid)
      Process.wait(pid)
      false
    end
  end
end

asked = { part: "core", each: 3, seed: Random.new_seed % 10_000 }
OptionParser.new do |options|
  options.on("--part PART", %w[core server])
  options.on("--each COUNT", Integer)
  options.on("--seed SEED", Integer)
  options.on("--at FILE:LINE")
  options.on("--tests FILES", Array)
end.parse!(into: asked)

part = asked[:at] ? asked[:at][/\A\w+/] : asked[:part]
random = Random.new(asked[:seed])
rooms = Dir[File.join(ROOT, part, "**/*.rb")].map do |file|
  file.delete_prefix("#{ROOT}/")
end.reject { |file| file.include?("/migrate/") }
   .group_by { |file| File.dirname(file) }
chosen =
  if asked[:at]
    file, line = asked[:at].split(":")
    Mutants::Places.new(file).list.select { |one| one.line == Integer(line) }
  else
    rooms.sort.flat_map do |_, files|
      files.sort.flat_map do |one|
        Mutants::Places.new(one).list
      end.sample(sized(asked[:each], 0), random: random)
    end
  end
tests = asked[:tests] || (Dir[File.join(ROOT, "test", part, "**/*_test.rb")].map do |one|
  one.delete_prefix("#{ROOT}/")
end - ["test/server/measured_test.rb"])
tests = tests.first(1) if TINY
puts "seed #{asked[:seed]}: #{chosen.size} changes in #{rooms.size} rooms of #{part}/, #{tests.size} test files"
reached = Mutants::Reached.new(tests)
queue = chosen.each_with_object(Queue.new) { |mutant, all| all << mutant }.close
done = Queue.new
workers = Array.new([Etc.nprocessors, 2].max) do
  Thread.new do
    bench = Mutants::Bench.new
    while (mutant = queue.pop)
      found = reached.by(mutant)
      survives = bench.survives?(mutant, found)
      puts "#{found.empty? ? "reached by no test" : "survives"}: #{mutant.said}" if survives
      $stdout.flush
      done << survives
    end
  end
end
workers.each(&:join)
survivors = Array.new(done.size) { done.pop }.count(true)
wanted = part == "core" ? 10 : 6
puts "#{survivors} of #{chosen.size} survive; wanted: fewer than one in #{wanted}"
