# frozen_string_literal: true

module Server
  # Whether a change can be undone or redone by itself: it is one's own, and nothing that others did since stands on it.
  module Standing
    class << self
      # @param change [Records::Change] the newest of its person
      # @param undone [Boolean] whether it is to be undone
      # @param others [Boolean] whether it may be somebody else's
      # @return [void]
      # @raise [Problem] 409 (by, blocking: the change that is in the way)
      def check(change, undone, others)
        own(change) unless others
        blocking = in_its_way(change, undone) or return
        said = "#{blocking.by || "Somebody"} has changed something since that stands on this."
        raise Problem.new(409, "#{said} Undo that first, or change it by hand.", blocking: blocking.document)
      end

      private

      def own(change)
        return if change.person_id == Asking.now&.id

        raise Problem.new(409, "#{change.by || "Somebody"} did this, not you. Say that you mean it.", by: change.by)
      end

      # A redo follows what is done since, and misses what is still undone before it. On the newest, and on the one that
      # was undone last, nothing stands.
      # @return [Records::Change, nil]
      def in_its_way(change, undone)
        later = Records::Change.done.where("id > ?", change.id)
        missing = undone ? [] : Records::Change.undone.where("id < ?", change.id).to_a
        (later.to_a + missing).find { |other| touch?(change, other) }
      end

      def touch?(one, other)
        return true if [one, other].any? { |change| change.parts.exists? }

        rows?(one.entries, other.entries) || named?(one.entries, other.entries) || named?(other.entries, one.entries)
      end

      # The same fields of the same row, or a row that comes or goes.
      def rows?(some, more)
        fields = some.group_by { |entry| entry.values_at("table", "id") }
        more.any? do |entry|
          fields[entry.values_at("table", "id")].to_a.any? do |same|
            [entry, same].any? { |one| passing?(one) } || entry["after"].keys.intersect?(same["after"].keys)
          end
        end
      end

      # What comes or goes with one is named in the other.
      def named?(some, more)
        ids = some.select { |entry| passing?(entry) }.map { |entry| entry["id"].to_s }
        return false if ids.empty?

        text = JSON.generate(more)
        ids.any? { |id| text.match?(/(?<![[:alnum:]])#{Regexp.escape(id)}(?![[:alnum:]])/) }
      end

      def passing?(entry) = entry["before"].nil? || entry["after"].nil?
    end
  end
end
