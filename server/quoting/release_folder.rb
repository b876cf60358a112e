# frozen_string_literal: true

require "fileutils"

module Server
  # What a quote process quotes from: a folder with the state of the door (state.json) and the books of its releases
  # (release-12.json). Files come whole or not at all; what is damaged all the same is told by its digest.
  class ReleaseFolder
    STATE = "state.json"
    # Books that are kept beside the newest: orders name older ones.
    KEPT = 4
    private_constant :STATE, :KEPT

    # What was cut short, or is not what it says it is.
    class Damaged < StandardError; end

    # @return [String]
    attr_reader :path

    # @param path [String]
    def initialize(path)
      @path = path
      FileUtils.mkdir_p(path, mode: 0o700)
    end

    # @return [Object] another one whenever the state was written anew; nil before there is one
    def mark
      found = File.stat(File.join(path, STATE))
      [found.mtime.to_f, found.size, found.ino]
    rescue Errno::ENOENT
      nil
    end

    # @return [Boolean] whether everything stands there as it was written here last
    def untouched? = !@written.nil? && @written == marks

    # @return [Hash]
    # @raise [Damaged]
    def state
      JSON.parse(File.read(File.join(path, STATE)))
    rescue SystemCallError, JSON::ParserError => e
      raise Damaged, "#{STATE}: #{e.class}"
    end

    # @param release [Hash] number and digest
    # @return [String] canonical JSON
    # @raise [Damaged]
    def book(release)
      text = File.read(file(release["number"]), encoding: Encoding::UTF_8)
      return text if Digest::SHA256.hexdigest(text) == release["digest"]

      raise Damaged, "#{File.basename(file(release["number"]))} is not what it should be"
    rescue SystemCallError => e
      raise Damaged, "release #{release["number"]}: #{e.class}"
    end

    # @param release [Hash] number and digest
    # @return [Boolean] whether its book is there, whole
    def book?(release)
      book(release) && true
    rescue Damaged
      false
    end

    # @param number [Integer]
    # @param text [String]
    # @return [void]
    def keep_book(number, text)
      write(file(number), text)
      old = Dir[File.join(path, "release-*.json")].sort_by { |name| -name[/\d+(?=\.json\z)/].to_i }.drop(KEPT)
      old.each { |name| FileUtils.rm_f(name) unless name == file(number) }
    end

    # @param state [Hash]
    # @return [void]
    def keep_state(state)
      write(File.join(path, STATE), JSON.generate(state))
      @written = marks
    end

    private

    # Of the state and the books: a file that was written, cut or taken away has another.
    def marks
      Dir[File.join(path, "*.json")].to_h do |name|
        found = File.stat(name)
        [name, [found.mtime.to_f, found.size, found.ino]]
      end
    rescue Errno::ENOENT
      nil
    end

    def file(number) = File.join(path, "release-#{Integer(number)}.json")

    # Whole or not at all, and there after a power cut.
    def write(file, text)
      File.open("#{file}.new", File::WRONLY | File::CREAT | File::TRUNC, 0o600) do |out|
        out.write(text)
        out.fsync
      end
      File.rename("#{file}.new", file)
    end
  end
end
