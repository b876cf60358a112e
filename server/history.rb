# frozen_string_literal: true

module Server
  # The one history of the store. Every edit runs inside {.edit}: one transaction, and one recorded change with what it
  # changed in the rows it touched, before and after. Undo puts that back as it was, redo as it became; both work for
  # every kind of record without knowing it.
  module History
    KEY = :gate_mile_history
    # What is not the merchant's doing: locks and counters go their own way.
    NOT_RECORDED = %w[lock_version revision].freeze
    # What is shown of a change; its rows can be long.
    SHOWN = %i[id action kind names undone at].freeze
    private_constant :KEY, :NOT_RECORDED, :SHOWN

    class << self
      # @param action [String] "create", "update", "delete", "reorder", "bulk" or "import"
      # @param kind [String] what is changed, e.g. "rate"
      # @param names [Hash, #call] what names the change to the merchant; a callable is asked after the edit
      # @yield makes the edit
      # @return [Object] what the block returns
      def edit(action, kind, names)
        entries = []
        revision = nil
        result = transaction do
          Thread.current[KEY] = entries
          yield.tap do
            revision = record(action, kind, names.respond_to?(:call) ? names.call : names, entries) if entries.any?
          end
        ensure
          Thread.current[KEY] = nil
        end
        Journal.add(revision, entries) if revision
        result
      end

      # Runs what is not an edit of a setup but its beginning: nothing to undo.
      # @yield writes records
      def unrecorded
        Journal.clear
        transaction do
          Thread.current[KEY] = []
          yield
        ensure
          Thread.current[KEY] = nil
        end
      end

      # Called by every record that was written.
      # @param record [Records::Base]
      # @param before [Hash, nil] the row before
      # @param after [Hash, nil] the row as it became
      # @return [void]
      # @raise [RuntimeError] outside of an edit: it could not be undone
      def note(record, before:, after:)
        before, after = difference(before, after) if before && after
        add(record.class.table_name, record.id, before, after) unless before == {}
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
            add(table, id, before, after)
          end
        end
      end

      # @return [Hash] the row as the database holds it
      def row(record) = record.attributes_for_database.except(*NOT_RECORDED)

      # @return [Hash] the row as it was before the save that just happened
      def row_before(record)
        row(record).merge(record.saved_changes.except(*NOT_RECORDED).to_h do |name, (was, _)|
          [name, record.class.type_for_attribute(name).serialize(was)]
        end)
      end

      # @return [Array<Records::Change>] the newest first, without their rows
      def list(most) = Records::Change.done.select(*SHOWN).limit(most).to_a

      # @return [Hash] the change that would be undone and the one that would be redone, for JSON
      def heads
        { "undo" => Records::Change.done.select(*SHOWN).first&.document,
          "redo" => Records::Change.undone.select(*SHOWN).first&.document }
      end

      # @param id [Integer] the change that the merchant was shown
      # @return [Records::Change]
      # @raise [Problem] 409 where another change is the newest by now
      def undo(id)
        step(Records::Change.done, id, undone: true) do |rows, entries|
          lock = Records::Change.maximum(:id).to_i
          entries.reverse_each do |entry|
            rows.put(entry["table"], entry["id"], entry["after"], entry["before"], lock: lock)
          end
        end
      end

      # @param id [Integer]
      # @return [Records::Change]
      # @raise [Problem] 409
      def redo(id)
        step(Records::Change.undone, id, undone: false) do |rows, entries|
          lock = Records::Change.maximum(:id).to_i
          entries.each do |entry|
            rows.put(entry["table"], entry["id"], entry["before"], entry["after"], lock: lock)
          end
        end
      end

      private

      def transaction(&) = ActiveRecord::Base.transaction(&)

      def add(table, id, before, after)
        entries = Thread.current[KEY] or raise "#{table} #{id} was written outside of an edit"
        entries << { "table" => table, "id" => id, "before" => before, "after" => after }
      end

      def difference(before, after)
        changed = after.keys.reject { |name| before[name] == after[name] }
        [before.slice(*changed), after.slice(*changed)]
      end

      def record(action, kind, names, entries)
        Records::Change.undone.delete_all
        Records::Change.create!(action: action, kind: kind, names: names, entries: entries, at: Time.now)
        raise_revision
      end

      def step(changes, id, undone:)
        revision = entries = nil
        change = transaction do
          found = changes.first
          raise Problem.new(409, "The history has moved on. Look at what would be undone now.") if found&.id != id

          entries = found.entries
          Rows.open { |rows| yield rows, entries }
          found.update!(undone: undone)
          revision = raise_revision
          found
        end
        Journal.add(revision, entries)
        change
      end

      # @return [Integer] the new one
      def raise_revision
        ActiveRecord::Base.connection.execute("UPDATE stores SET revision = revision + 1")
        Records::Store.revision
      end
    end
  end
end
