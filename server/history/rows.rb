# frozen_string_literal: true

module Server
  # Writes rows as the history holds them, many in a short time: one prepared statement for each form of row.
  class Rows
    # @yieldparam rows [Rows] usable inside the block, which runs in a transaction
    # @return [Object] what the block returns
    def self.open
      rows = new
      yield rows
    ensure
      rows.close
    end

    def initialize
      @connection = ActiveRecord::Base.connection
      @statements = {}
      @locked = {}
    end

    # @param table [String]
    # @param id [String, Integer]
    # @param from [Hash, nil] the row before, as far as it changes; nil for a row that comes
    # @param into [Hash, nil] the same afterwards; nil for a row that goes
    # @param lock [Integer] lock version of a row that comes
    # @return [void]
    def put(table, id, from, into, lock: 0)
      if into.nil? then delete(table, id)
      elsif from.nil? then insert(table, locked?(table) ? into.merge("lock_version" => lock) : into)
      else update(table, id, into.except("id"))
      end
    end

    # @return [void]
    def close = @statements.each_value(&:close)

    private

    def insert(table, row)
      run([:insert, table, row.keys], row.values) do
        marks = (["?"] * row.size).join(", ")
        "INSERT INTO #{quoted(table)} (#{row.keys.map { |name| quoted(name) }.join(", ")}) VALUES (#{marks})"
      end
    end

    def update(table, id, row)
      return if row.empty?

      run([:update, table, row.keys], row.values + [id]) do
        sets = row.keys.map { |name| "#{quoted(name)} = ?" }
        sets << "lock_version = lock_version + 1" if locked?(table)
        "UPDATE #{quoted(table)} SET #{sets.join(", ")} WHERE id = ?"
      end
    end

    def delete(table, id) = run([:delete, table], [id]) { "DELETE FROM #{quoted(table)} WHERE id = ?" }

    def locked?(table)
      @locked.fetch(table) do
        @locked[table] = @connection.columns(table).any? { |column| column.name == "lock_version" }
      end
    end

    # @yieldreturn [String] the statement, where there is none of this form yet
    def run(form, values)
      statement = @statements[form] ||= @connection.raw_connection.prepare(yield)
      statement.execute(*values.map { |value| plain(value) })
    end

    # SQLite has no booleans.
    def plain(value)
      case value
      when true then 1
      when false then 0
      else value
      end
    end

    def quoted(name) = @connection.quote_column_name(name)
  end
end
