# frozen_string_literal: true

# Which test files share a process: as many as fill it, by what they took last, so that the last processes of a run end
# together. The longest start first.
module Share
  # The seconds that a process should be busy for: to load what the files need is paid once in each.
  FULL = { "core" => 60, "server" => 120, "browser" => 150 }.freeze
  # What a file is believed to take before it ever ran, by the folder and by its size in bytes.
  UNKNOWN = { "core" => 3, "server" => 10, "browser" => 30 }.freeze
  A_SECOND = 2500

  class << self
    # @param files [Array<String>]
    # @param last [Hash{String => Float}] seconds by file
    # @return [Array<Array<String>>] what runs in one process each, the longest first
    def of(files, last)
      files.group_by { |file| folder(file) }.flat_map { |folder, list| shared(list, last, FULL.fetch(folder, 0)) }
           .sort_by { |group| -seconds(group, last) }
    end

    # @param group [Array<String>]
    # @param last [Hash{String => Float}]
    # @return [Float]
    def seconds(group, last) = group.sum { |file| last.fetch(file) { UNKNOWN.fetch(folder(file), 5) + (File.size?(file).to_i / A_SECOND) } }

    private

    def folder(file) = file[%r{test/(\w+)/}, 1]

    # The longest first, each to the process that is busy for the shortest time.
    def shared(files, last, full)
      return files.map { |file| [file] } if full.zero?

      count = (seconds(files, last) / full).ceil.clamp(1, files.size)
      processes = Array.new(count) { [] }
      files.sort_by { |file| [-seconds([file], last), file] }.each { |file| processes.min_by { |group| seconds(group, last) } << file }
      processes
    end
  end
end
