# frozen_string_literal: true

module Server
  # One undoable change of very many rows, written in short transactions, so that nobody waits for it: neither readers,
  # who never do, nor others who edit something else. It counts from the moment when all of it is there; what a stopped
  # process left behind is put back at the next start. Meanwhile the goods themselves are not edited.
  class LongChange
    # Rows that one transaction writes.
    SLICE = 1000
    # Kinds of edits that touch the same rows.
    GOODS = %w[product treatment class tax_class store setup].freeze
    private_constant :GOODS

    @lock = Mutex.new

    class << self
      # @param kind [String] of an edit
      # @return [void]
      # @raise [Problem] 503 while goods are changed
      def bar(kind) = (bar_all if GOODS.include?(kind))

      # @return [void]
      # @raise [Problem] 503
      def bar_all
        return unless @lock.locked? && !@lock.owned?

        raise Problem.new(503, "A file of goods is being stored. Try again in a moment.", retry_after: 2)
      end

      # Whatever takes a picture of the goods asks inside the transaction that reads them: rows of a change that is not
      # whole yet, and may be put back, are no part of any setup. Only the change itself reads them.
      # @return [void]
      # @raise [Problem] 503 while a change is being stored, undone or redone, by whichever process
      def refuse_half
        return if @lock.owned? || !Records::Change.where.not(state: nil).exists?

        raise Problem.new(503, "Goods are being imported. Try again in a moment.", retry_after: 2)
      end

      # @param action [String]
      # @param kind [String]
      # @yieldparam change [LongChange] whose {#write} writes
      # @return [Object] what the block returns
      # @raise [Problem] 503 while there is another
      def run(action, kind)
        alone do
          change = new(action, kind)
          yield(change)
        rescue StandardError
          change&.put_back
          raise
        end
      end

      # Undoes or redoes one, part by part.
      # @param changes [ActiveRecord::Relation]
      # @param id [Integer]
      # @yieldparam change [Records::Change] to refuse it
      # @return [Records::Change]
      # @raise [Problem] 409
      def step(changes, id, undone:, &check)
        alone do
          found = Database.write do
            History.newest(changes, id, &check).tap do |change|
              change.update!(state: undone ? "undoing" : "redoing")
            end
          end
          walk(found)
        end
      end

      # Finishes or puts back what a process left behind when it was stopped.
      # @return [void]
      def recover
        Records::Change.where.not(state: nil).order(:id).each do |change|
          change.state == "storing" ? drop(change) : walk(change)
        end
      end

      # @param change [Records::Change] that is being stored
      # @return [void]
      def drop(change)
        replay(change, undone: true)
        Database.write { change.destroy! }
      end

      private

      def alone(&)
        unless @lock.try_lock
          raise Problem.new(503, "Another file is being stored. Try again in a moment.",
                            retry_after: 2)
        end

        begin
          yield
        ensure
          @lock.unlock
        end
      end

      def walk(change)
        undone = change.state == "undoing"
        replay(change, undone: undone)
        revision = Database.write do
          change.update!(undone: undone, state: nil)
          History.raise_revision
        end
        Journal.add(revision, nil)
        change
      end

      # Each part once, in its own transaction.
      def replay(change, undone:)
        ids = change.parts.where(undone: !undone).order(id: undone ? :desc : :asc).ids
        ids.each do |id|
          Database.write do
            part = Records::ChangePart.find(id)
            History.replay(part.entries, undone: undone)
            part.update!(undone: undone)
          end
        end
      end
    end

    def initialize(action, kind)
      @change = Database.write do
        Records::Change.create!(action: action, kind: kind, names: {}, entries: [], at: Time.now, state: "storing",
                                **History.who)
      end
      @rows = 0
      @entries = []
    end

    # @return [Integer] rows that were written so far
    attr_reader :rows

    # @yieldreturn [Array<Array(String, String, Hash, Hash)>] table, id, and what changes in the row before and after,
    #   as {History.write} takes it; looked up inside the transaction that writes it
    # @return [void]
    def write
      Database.write do
        changes = yield
        next if changes.empty?

        Rows.open { |rows| changes.each { |table, id, before, after| rows.put(table, id, before, after) } }
        entries = changes.map { |table, id, before, after| { table: table, id: id, before: before, after: after } }
        @change.parts.create!(entries: entries)
        @rows += changes.size
        # Few rows are known to the journal one by one.
        @entries = @rows > Journal::MOST ? nil : @entries&.concat(entries.map(&:stringify_keys))
      end
    end

    # Counts from now on: as the newest change, with the next revision of the setup.
    # @param names [Hash] what names the change to the merchant
    # @return [Integer, nil] the revision; nil where nothing was changed
    def finish(names)
      return put_back if rows.zero?

      Database.write do
        History.forget_undone
        # The newest is the one that is undone first, whatever was edited meanwhile.
        said = @change.slice(:action, :kind, :entries, :person_id, :by).symbolize_keys
        last = Records::Change.create!(**said, names: names, at: Time.now)
        @change.parts.update_all(change_id: last.id)
        @change.destroy!
        History.made = last
        History.raise_revision
      end.tap { |revision| Journal.add(revision, @entries) }
    end

    # @return [nil] everything as it was
    def put_back
      LongChange.drop(@change) if Records::Change.exists?(id: @change.id)
      nil
    end
  end
end
