# frozen_string_literal: true

module Server
  # The one history of the store. Every edit runs inside {.edit}: one transaction, and one recorded change with what it
  # changed in the rows it touched, before and after, as the database held them. Undo puts that back as it was, redo as
  # it became; both work for every kind of record without knowing it. What touches very many rows is a {LongChange}.
  module History
    MADE = :gate_mile_change
    # What is shown of a change; its rows can be long.
    SHOWN = %i[id action kind names undone at revision person_id by].freeze
    private_constant :MADE, :SHOWN

    class << self
      # @param action [String] "create", "update", "delete", "reorder", "bulk" or "import"
      # @param kind [String] what is changed, e.g. "rate"
      # @param names [Hash, #call] what names the change to the merchant; a callable is asked after the edit
      # @yield makes the edit
      # @return [Object] what the block returns
      # @raise [Problem] 503 while the same goods are being changed in many short steps
      def edit(action, kind, names)
        LongChange.bar(kind)
        entries = []
        revision = nil
        result = Database.write do
          Records::Written.gathered(entries) do
            yield.tap do
              revision = record(action, kind, names.respond_to?(:call) ? names.call : names, entries) if entries.any?
            end
          end
        end
        Journal.add(revision, entries) if revision
        result
      end

      # Runs what is not an edit of a setup but its beginning: nothing to undo.
      # @yield writes records
      def unrecorded(&)
        Journal.clear
        Database.write { Records::Written.gathered([], &) }
      end

      # @return [Integer, nil] the id of the change that this thread's request has made, nil where it made none; asked
      #   once
      def made = Thread.current[MADE].tap { Thread.current[MADE] = nil }

      # @param change [Records::Change] that this thread's request has made
      # @return [void]
      def made=(change)
        Thread.current[MADE] = change.id
      end

      # Writes many rows at once, past the records: the caller has checked them.
      # @param table [String]
      # @param changes [Array<Array(String, Hash, Hash)>] id, and what changes in the row before and after, as the
      #   database holds it; nil for a row that comes or goes
      # @return [void]
      def write(table, changes)
        Rows.open do |rows|
          changes.each do |id, before, after|
            rows.put(table, id, before, after)
            Records::Written.add(table, id, before, after)
          end
        end
      end

      # Exchanges many rows of many tables at once. A row that changes goes and comes again, so that rows can take each
      # other's names; first all that goes, then all that comes.
      # @param changes [Hash{String => Hash{Object => Array}}] by table, each behind those that it points to, and by id:
      #   the whole row before and after, nil for none
      # @return [void]
      def exchange(changes)
        gone = changes.to_a.reverse.flat_map do |table, rows|
          rows.filter_map do |id, (before, _)|
            if before
              [table, id, before,
               nil]
            end
          end
        end
        come = changes.flat_map { |table, rows| rows.filter_map { |id, (_, after)| [table, id, nil, after] if after } }
        updates, others = (gone + come).partition { |table,| table == "stores" }
        ActiveRecord::Base.connection.execute("PRAGMA defer_foreign_keys = ON")
        lock = Records::Change.maximum(:id).to_i + 1
        Rows.open do |rows|
          [*stores(updates), *others].each do |table, id, before, after|
            rows.put(table, id, before, after, lock: lock)
            Records::Written.add(table, id, before, after)
          end
        end
      end

      # @return [Array<Records::Change>] the newest first, without their rows
      def list(most) = Records::Change.done.select(*SHOWN).limit(most).to_a

      # @return [Hash] for JSON: the change that would be undone and the one that would be redone, each of whoever asks;
      #   and the newest of all, where it is somebody else's
      def heads
        mine = who[:person_id]
        last = Records::Change.done.select(*SHOWN).first
        { "undo" => Records::Change.done.of(mine).select(*SHOWN).first&.document,
          "redo" => Records::Change.undone.of(mine).select(*SHOWN).first&.document,
          "last" => (last.document if last && last.person_id != mine) }
      end

      # @param id [Integer] the change that the merchant was shown
      # @param others [Boolean] whether it may be somebody else's
      # @return [Records::Change]
      # @raise [Problem] 409 where its person has made another one by now, where another one stands on it, or where it
      #   is somebody else's and nobody said that it may be
      def undo(id, others: false) = step(Records::Change.done, id, undone: true, others: others)

      # @param id [Integer]
      # @param others [Boolean]
      # @return [Records::Change]
      # @raise [Problem] 409
      def redo(id, others: false) = step(Records::Change.undone, id, undone: false, others: others)

      # @return [Hash] person_id and by, of whoever asks; nil both, where nobody is signed in
      def who = { person_id: Asking.now&.id, by: Asking.now&.name }

      # What somebody has undone can't be redone after their next edit. What others have undone stays.
      # @return [void]
      def forget_undone = Records::Change.undone.of(who[:person_id]).delete_all

      # Puts rows as they were before a change, or as they became.
      # @param entries [Array<Hash>] of the change
      # @param undone [Boolean] before
      # @return [void]
      def replay(entries, undone:)
        lock = Records::Change.maximum(:id).to_i
        # Rows that name each other come and go in an order that only the whole knows.
        ActiveRecord::Base.connection.execute("PRAGMA defer_foreign_keys = ON")
        Rows.open do |rows|
          (undone ? entries.reverse : entries).each do |entry|
            sides = entry.values_at("before", "after")
            from, into = undone ? sides.reverse : sides
            rows.put(entry["table"], entry["id"], from, into, lock: lock)
          end
        end
      end

      # @return [Integer] the new one
      def raise_revision
        ActiveRecord::Base.connection.execute("UPDATE stores SET revision = revision + 1")
        Records::Store.revision
      end

      private

      # The shop itself stays, and its revision with it.
      def stores(changes)
        return [] if changes.empty?

        before, after = Records::Written.difference(changes.first[2], changes.last[3])
        [["stores", 1, before, after]]
      end

      def record(action, kind, names, entries)
        forget_undone
        change = Records::Change.create!(action: action, kind: kind, names: names, entries: entries, at: Time.now,
                                         **who)
        self.made = change
        raise_revision.tap { |revision| change.update!(revision: revision) }
      end

      def step(changes, id, undone:, others:)
        LongChange.bar_all
        if Records::ChangePart.exists?(change_id: id)
          return LongChange.step(changes, id, undone: undone) { |found| Standing.check(found, undone, others) }
        end

        revision = entries = nil
        change = Database.write do
          found = newest(changes, id) { |one| Standing.check(one, undone, others) }
          entries = found.entries
          replay(entries, undone: undone)
          found.update!(undone: undone)
          revision = raise_revision
          found
        end
        Journal.add(revision, entries)
        change
      rescue SQLite3::ConstraintException, ActiveRecord::StatementInvalid => e
        raise unless e.is_a?(SQLite3::ConstraintException) || e.cause.is_a?(SQLite3::ConstraintException)

        raise Problem.new(409, "Something that was changed since stands in its way. Change it by hand.")
      end

      def newest(changes, id)
        found = changes.find_by(id: id)
        if found.nil? || changes.of(found.person_id).pick(:id) != id
          raise Problem.new(409, "The history has moved on. Look at what would be undone now.")
        end

        yield found
        found
      end
      public :newest
    end
  end
end
