# frozen_string_literal: true

module Server
  # The one history of the store. Every edit runs inside {.edit}: one transaction, and one recorded change with the
  # rows it touched, before and after. Undo puts the rows back as they were, redo as they became; both work for every
  # kind of record without knowing it.
  module History
    KEY = :gate_mile_history
    # What is not the merchant's doing: locks and counters go their own way.
    NOT_RECORDED = %w[lock_version revision].freeze
    private_constant :KEY, :NOT_RECORDED

    class << self
      # @param action [String] "create", "update", "delete" or "reorder"
      # @param kind [String] what is changed, e.g. "rate"
      # @param names [Hash, #call] what names the change to the merchant; a callable is asked after the edit
      # @yield makes the edit
      # @return [Object] what the block returns
      def edit(action, kind, names)
        transaction do
          entries = Thread.current[KEY] = []
          result = yield
          record(action, kind, names.respond_to?(:call) ? names.call : names, entries) if entries.any?
          result
        ensure
          Thread.current[KEY] = nil
        end
      end

      # Runs what is not an edit of a setup but its beginning: nothing to undo.
      # @yield writes records
      def unrecorded
        transaction do
          Thread.current[KEY] = []
          yield
        ensure
          Thread.current[KEY] = nil
        end
      end

      # Called by the records as they are written.
      # @param record [ActiveRecord::Base]
      # @param before [Hash, nil]
      # @param after [Hash, nil]
      def note(record, before:, after:)
        return if before == after

        (Thread.current[KEY] or raise "an edit outside History.edit")
          .push({ "table" => record.class.table_name, "id" => record.id, "before" => before, "after" => after })
      end

      # @return [Hash] the row as the database holds it
      def row(record) = record.attributes_for_database.except(*NOT_RECORDED)

      # @return [Hash] the row as it was before the save that just happened
      def row_before(record)
        row(record).merge(record.saved_changes.except(*NOT_RECORDED).to_h do |name, (was, _)|
          [name, record.class.type_for_attribute(name).serialize(was)]
        end)
      end

      # @return [Hash] the change that would be undone and the one that would be redone, for JSON
      def heads
        { "undo" => Records::Change.done.first&.document, "redo" => Records::Change.undone.first&.document }
      end

      # @param id [Integer] the change that the merchant was shown
      # @return [Records::Change]
      # @raise [Problem] 409 where another change is the newest by now
      def undo(id)
        step(Records::Change.done, id, undone: true) do |entries|
          entries.reverse_each { |entry| put(entry, entry["after"], entry["before"]) }
        end
      end

      # @param id [Integer]
      # @return [Records::Change]
      # @raise [Problem] 409
      def redo(id)
        step(Records::Change.undone, id, undone: false) do |entries|
          entries.each { |entry| put(entry, entry["before"], entry["after"]) }
        end
      end

      private

      def transaction(&) = ActiveRecord::Base.transaction(&)

      def record(action, kind, names, entries)
        Records::Change.undone.delete_all
        Records::Change.create!(action: action, kind: kind, names: names, entries: entries, at: Time.now)
        raise_revision
      end

      def step(changes, id, undone:)
        transaction do
          change = changes.first
          raise Problem.new(409, "The history has moved on. Look at what would be undone now.") if change&.id != id

          yield change.entries
          change.update!(undone: undone)
          raise_revision
          change
        end
      end

      def raise_revision = execute("UPDATE stores SET revision = revision + 1")

      # Writes one row as it was or became. Deletions and insertions in the right order are the history's own order.
      def put(entry, from, to)
        table = Arel::Table.new(entry["table"])
        where = table[:id].eq(entry["id"])
        if to.nil? then execute(Arel::DeleteManager.new(table).where(where))
        elsif from.nil? then insert(table, to)
        else update(table, where, to)
        end
      end

      def insert(table, row)
        row = row.merge("lock_version" => Records::Change.maximum(:id).to_i) if locked?(table)
        execute(Arel::InsertManager.new(table).insert(row.map { |name, value| [table[name], value] }))
      end

      def update(table, where, row)
        values = row.except("id").map { |name, value| [table[name], value] }
        values << [table[:lock_version], table[:lock_version] + 1] if locked?(table)
        execute(Arel::UpdateManager.new(table).where(where).set(values))
      end

      def locked?(table) = connection.columns(table.name).any? { |column| column.name == "lock_version" }

      def execute(statement)
        connection.execute(statement.is_a?(String) ? statement : statement.to_sql)
      end

      def connection = ActiveRecord::Base.connection
    end
  end
end
