# frozen_string_literal: true

require "fileutils"

module Server
  # What a quote process quotes from: a folder with the state of the door (state.json, and a copy of it), the last state
  # of the release before (state-before.json), and the books of releases (release-12.json). Files come whole or not at
  # all; what is damaged all the same is told by its digest, and then the newest release that is whole counts.
  class ReleaseFolder
    STATE = "state.json"
    COPY = "state-copy.json"
    BEFORE = "state-before.json"
    # Books that are kept beside the newest: orders name older ones.
    KEPT = 4
    # Files that say by their age when something last happened: a courier's round, and an answer of the workbench.
    NOTES = { rounds: "courier.seen", seen: "workbench.seen" }.freeze
    private_constant :STATE, :COPY, :BEFORE, :KEPT, :NOTES

    # What was cut short, or is not what it says it is.
    class Damaged < StandardError; end

    # @return [String]
    attr_reader :path

    # @param path [String]
    def initialize(path)
      @path = path
      FileUtils.mkdir_p(path, mode: 0o700)
    end

    # @return [Object] another one whenever a state or a book was written anew; nil before there is one
    def mark = marks.then { |found| found unless found.nil? || found.empty? }

    # @return [Boolean] whether everything stands there as it was written here last
    def untouched? = !@written.nil? && @written == marks

    # @return [Hash] the newest state that is whole
    # @raise [Damaged] where none is
    def state
      found = [STATE, COPY, BEFORE].lazy.map { |name| read(name) }.find { |state| state }
      found or raise Damaged, "#{STATE} can't be read"
    end

    # @return [Hash, nil] the last state of the release before; nil where there is none, or none that is whole
    def before = read(BEFORE)

    # @return [Hash, nil] the copy of the newest state; nil where it is not whole
    def copy = read(COPY)

    # @return [Boolean] whether the newest state itself is whole
    def state? = !read(STATE).nil?

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
      kept = [number, *[state_or_nil, before].compact.map { |state| state["release"]["number"] }]
      old.each { |name| FileUtils.rm_f(name) unless kept.any? { |one| name == file(one) } }
    end

    # @param state [Hash]
    # @return [void]
    def keep_state(state)
      last = state_or_nil
      keep(BEFORE, last) if last && last["release"] != plain(state)["release"]
      keep(COPY, state)
      keep(STATE, state)
      @written = marks
    end

    # @param what [Symbol] of {NOTES}
    # @return [void] notes that it happened now
    def note(what) = FileUtils.touch(File.join(path, NOTES.fetch(what)))

    # @param what [Symbol] of {NOTES}
    # @param now [Time]
    # @return [Float, nil] seconds since it happened; nil where it never has
    def since(what, now = Time.now)
      [now - File.mtime(File.join(path, NOTES.fetch(what))), 0].max
    rescue Errno::ENOENT
      nil
    end

    private

    def plain(state) = JSON.parse(JSON.generate(state))
    def keep(name, state) = write(File.join(path, name), JSON.generate(state))

    def state_or_nil
      state
    rescue Damaged
      nil
    end

    # @return [Hash, nil] nil for a file that is not there, or is no whole state
    def read(name)
      found = JSON.parse(File.read(File.join(path, name), encoding: Encoding::UTF_8))
      found if found.is_a?(Hash) && found["release"].is_a?(Hash)
    rescue SystemCallError, JSON::ParserError
      nil
    end

    # Of the states and the books: a file that was written, cut or taken away has another.
    def marks
      Dir[File.join(path, "*.json")].to_h do |name|
        found = File.stat(name)
        [name, [found.mtime.to_f, found.size, found.ino]]
      end
    rescue Errno::ENOENT
      nil
    end

    def file(number) = File.join(path, "release-#{Integer(number)}.json")

    # Whole or not at all, and there after a power cut. Several processes may mend the same file.
    def write(file, text)
      part = "#{file}.#{Process.pid}.new"
      File.open(part, File::WRONLY | File::CREAT | File::TRUNC, 0o600) do |out|
        out.write(text)
        out.fsync
      end
      File.rename(part, file)
      File.open(path, &:fsync)
    ensure
      FileUtils.rm_f(part)
    end
  end
end
