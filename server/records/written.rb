# frozen_string_literal: true

module Server
  module Records
    # The rows that this thread's edit has written so far, each before and after. Every record adds its own; the history
    # turns them into a change.
    module Written
      KEY = :gate_mile_written
      # What is not the merchant's doing: locks and counters go their own way.
      NOT_RECORDED = %w[lock_version revision].freeze
      private_constant :KEY, :NOT_RECORDED

      class << self
        # @param entries [Array] that is filled
        # @yield writes
        # @return [Object] what the block returns
        def gathered(entries)
          Thread.current[KEY] = entries
          yield
        ensure
          Thread.current[KEY] = nil
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

        # @param table [String]
        # @param id [String, Integer]
        # @param before [Hash, nil] what changes in the row, as it was; nil for one that comes
        # @param after [Hash, nil] as it became; nil for one that goes
        # @return [void]
        # @raise [RuntimeError] outside of an edit
        def add(table, id, before, after)
          entries = Thread.current[KEY] or raise "#{table} #{id} was written outside of an edit"
          entries << { "table" => table, "id" => id, "before" => before, "after" => after }
        end

        # @param record [Records::Base]
        # @return [Hash] the row as the database holds it now, whatever the record in memory says
        def row(record)
          connection = ActiveRecord::Base.connection
          table = record.class.quoted_table_name
          found = connection.select_one("SELECT * FROM #{table} WHERE id = #{connection.quote(record.id)}")
          found.except(*NOT_RECORDED)
        end

        # @return [Array(Hash, Hash)] only what differs, before and after
        def difference(before, after)
          changed = after.keys.reject { |name| before[name] == after[name] }
          [before.slice(*changed), after.slice(*changed)]
        end
      end
    end
  end
end
