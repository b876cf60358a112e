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
      if into.nil? then run("DELETE FROM #{quoted(table)} WHERE id = ?", [id])
      elsif from.nil? then insert(table, locked?(table) ? into.merge("lock_version" => lock) : into)
      else update(table, id, into.except("id"))
      end
    end

    # @return [void]
    def close = @statements.each_value(&:close)

    private

    def insert(table, row)
      names = row.keys.map { |name| quoted(name) }.join(", ")
      run("INSERT INTO #{quoted(table)} (#{names}) VALUES (#{(["?"] * row.size).join(", ")})", row.values)
    end

    def update(table, id, row)
      return if row.empty?

      sets = row.keys.map { |name| "#{quoted(name)} = ?" }
      sets << "lock_version = lock_version + 1" if locked?(table)
      run("UPDATE #{quoted(table)} SET #{sets.join(", ")} WHERE id = ?", row.values + [id])
    end

    def locked?(table)
      @locked.fetch(table) do
        @locked[table] = connection.columns(table).any? { |column| column.name == "lock_version" }
      end
    end

    def run(sql, values)
      statement = @statements[sql] ||= connection.raw_connection.prepare(sql)
      statement.execute(*values.map { |value| plain(value) })
    end

    # SQLite has no booleans.
    def plain(value) = { true => 1, false => 0 }.fetch(value, value)

    def quoted(name) = connection.quote_column_name(name)
    def connection = ActiveRecord::Base.connection
  end
end
