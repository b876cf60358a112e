# frozen_string_literal: true

require_relative "../support/server"

# What every list and table reads: as many queries for many rows as for few, and by an index where tables grow.
class QueriesTest < Minitest::Test
  include ServerSupport

  # More often than this, one query is asked for each row.
  OFTEN = 4

  def setup
    fresh(WHOLE_DEMO)
    Server::Records::Product.limit(15).each_with_index do |product, at|
      api(:post, "/api/treatments", { name: "By hand #{at}", on: { products: [product.id], classes: [] } })
    end
  end

  # @return [Array<String>] what was asked of the database
  def queries
    list = []
    heard = ActiveSupport::Notifications.subscribe("sql.active_record") do |_, _, _, _, told|
      list << told[:sql] unless told[:name] == "SCHEMA" || told[:cached] || told[:sql].match?(/\A(BEGIN|COMMIT|ROLLBACK|SAVEPOINT|RELEASE|PRAGMA)/i)
    end
    yield
    list
  ensure
    ActiveSupport::Notifications.unsubscribe(heard)
  end

  # The doors that answer without being told which one of many.
  def doors
    Server::App.routes.fetch("GET").map { |route| route.first.to_s }.select { |path| path.start_with?("/api/") && !path.match?(/[:*]/) }
  end

  def test_no_query_is_asked_for_each_row
    assert_operator doors.size, :>, 20
    repeated = doors.to_h do |door|
      asked = queries { api(:get, door) }
      [door, asked.map { |sql| sql.gsub(/\d+|'[^']*'/, "?") }.tally.select { |_, count| count > OFTEN }]
    end
    assert_empty(repeated.reject { |_, list| list.empty? })
  end

  # Tables that grow with every call, edit or night.
  GROWING = %w[orders order_offers audit_entries changes change_parts offered_methods quote_hours turned_away
               webhook_deliveries webhook_messages taken_notices sessions].freeze

  # @return [Array<String>] of these, what SQLite goes through from end to end
  def scans(asked)
    database = ActiveRecord::Base.connection.raw_connection
    asked.uniq.grep(/\A(SELECT|DELETE|UPDATE|WITH)/i).flat_map do |sql|
      plan = database.execute("EXPLAIN QUERY PLAN #{sql}").map { |row| row.respond_to?(:values) ? row.values.last : row.last }
      plan.grep(/\ASCAN (#{GROWING.join("|")})(?! USING)/).map { |step| "#{step}: #{sql}" }
    end
  end

  def test_what_grows_is_read_by_an_index
    asked = doors.flat_map { |door| queries { api(:get, door) } }
    # The last rows, and no others, are read from the end of the table itself.
    assert_empty(scans(asked).grep_v(/ORDER BY "\w+"\."id" DESC LIMIT/))
  end

  # Reached by what it sits on, by the class, or as a variant: each row once, as the list of goods finds them.
  def test_what_treatments_reach
    told = api(:get, "/api/treatments")["treatments"]
    assert_operator told.sum { |one| one["count"] }, :>, 15
    told.each do |one|
      goods = Server::GoodsQuery.new({ "treatment" => one["id"] })
      assert_equal [goods.count, goods.relation.limit(3).map(&:name)], one.values_at("count", "names")
    end
  end
end
