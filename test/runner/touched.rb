# frozen_string_literal: true

require "open3"
require_relative "../../core/gate_mile"

# Which tests a change can touch, by where it is: what nothing is known of touches all.
module Touched
  ALL = %w[test/core test/server test/browser].freeze
  # A path, and the folders and files of tests that it can touch. The first that fits counts.
  PLACES = [
    [%r{\Atest/(?:core|server|browser)/.*_test\.rb\z}, ->(found) { [found[0]] }],
    [%r{\Atest/(?:runner|pictures|run|times)\b}, ->(_) { %w[test/server/runner_test.rb] }],
    [%r{\Acore/gate_mile/(\w+)/}, ->(found) { later(found[1]) + %w[test/server test/browser] }],
    [%r{\A(?:server|demo|stand_ins)/}, ->(_) { %w[test/server test/browser] }],
    [%r{\Aweb/}, ->(_) { %w[test/server/interface_rooms_test.rb test/browser] }],
    [%r{\Aclients/}, ->(_) { %w[test/server/clients_test.rb] }],
    [%r{\Aperf/}, ->(_) { %w[perf test/server/measured_test.rb] }],
    [%r{\Adocs/api/}, ->(_) { %w[test/server test/browser] }],
    [%r{\A(?:docs|deploy)/|\.md\z}, ->(_) { [] }]
  ].freeze

  class << self
    # @param paths [Array<String>] that changed, below the root
    # @return [Array<String>] folders and files of tests, none twice
    def by(paths)
      found = paths.flat_map { |path| tests(path) }.uniq
      found.reject { |path| found.any? { |other| path.start_with?("#{other}/") } }.select { |path| File.exist?(path) }
    end

    # @return [Array<String>] what differs from the last commit, and what is new
    def now
      ["git diff --name-only HEAD", "git ls-files --others --exclude-standard"].flat_map do |command|
        said, done = Open3.capture2(command)
        done.success? ? said.lines.map(&:chomp) : raise("#{command} failed")
      end
    end

    private

    def tests(path)
      PLACES.each { |place, touched| (found = path.match(place)) and return touched.call(found) }
      ALL
    end

    # The tests of this room and of those that may know it.
    def later(room)
      at = GateMile::ROOMS.index(room) or return ["test/core"]
      GateMile::ROOMS.drop(at).map { |name| "test/core/#{name}" } + %w[test/core/rooms_test.rb]
    end
  end
end
