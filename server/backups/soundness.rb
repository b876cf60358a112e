# frozen_string_literal: true

require "open3"

module Server
  # Checks a database file: every page, every index, every reference. It runs in a process of its own, because SQLite
  # holds Ruby's lock for as long as it reads, and quotes would wait.
  module Soundness
    SCRIPT = <<~RUBY
      SQLite3::Database.new(ARGV[0], readonly: true) do |one|
        found = one.execute("PRAGMA integrity_check").flatten.first(3)
        found = [] if found == ["ok"]
        found << "rows refer to others that are missing" if one.execute("PRAGMA foreign_key_check").any?
        puts(found)
      end
    RUBY
    # Gems are found by their own paths: to set up all of them takes longer than the check.
    ALONE = { "RUBYOPT" => nil, "BUNDLE_GEMFILE" => nil }.freeze
    private_constant :SCRIPT, :ALONE

    # @param file [String] that nobody writes to
    # @return [Array<String>] what is wrong with it, empty for nothing
    def self.faults(file)
      paths = $LOAD_PATH.grep(/sqlite3/).flat_map { |path| ["-I", path.to_s] }
      said, status = Open3.capture2e(ALONE, RbConfig.ruby, "--disable=gems", *paths, "-rsqlite3", "-e", SCRIPT, file)
      found = said.lines.map(&:strip).reject(&:empty?)
      return found if status.success?

      [found.grep(/exception/i).first&.slice(/\(SQLite3.*\)|[^:]*exception.*/i) || "it can't be read"]
    end
  end
end
