# frozen_string_literal: true

require_relative "../support/checkout"

# What every list and table reads: as many queries for many rows as for few, and by an index where tables grow.
class QueriesTest < Minitest::Test
  include CheckoutSupport

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

  # One order, of the first release.
  def order
    publish
    @key = key_for
    ask(:post, "orders", { order: "A-1", quote: quoted.fetch("quote"), method: "TRACKED" })
  end

  # The others, each with the one of its kind that has most to read.
  def doors_of_one
    order
    { "/api/areas/:id" => Server::Records::Area.all.max_by { |area| area.attributes.to_s.size }.id,
      "/api/products/:id/treatments" => Server::Records::Product.where.not(parent_id: nil).first.parent_id,
      "/api/treatments/:id/targets" => Server::Records::TreatmentTarget.group(:treatment_id).order(Arel.sql("count(*) DESC")).pick(:treatment_id),
      "/api/proofs/:id/parting" => Server::Records::Proof.first.id, "/api/releases/:number/book" => 1,
      "/api/orders/:number" => "A-1", "/api/backups/:date" => "2026-01-01" }
  end

  # @return [Hash{String => Integer}] what was asked more often than can be without a query for each row
  def repeated(asked) = asked.map { |sql| sql.gsub(/\d+|'[^']*'/, "?") }.tally.select { |_, count| count > OFTEN }

  def test_no_query_is_asked_for_each_row
    assert_operator doors.size, :>, 20
    assert_empty(doors.to_h { |door| [door, repeated(queries { api(:get, door) })] }.reject { |_, list| list.empty? })
    one = doors_of_one
    all = Server::App.routes.fetch("GET").map { |route| route.first.to_s }.grep(%r{\A/api/.*[:*]})
    assert_empty all - one.keys, "doors that this test does not open"
    found = one.to_h do |door, id|
      asked = queries { api(:get, door.sub(/:\w+/, id.to_s)) }
      assert_includes [200, (404 if door.include?("backups"))], last_response.status, door
      [door, repeated(asked)]
    end
    assert_empty(found.reject { |_, list| list.empty? })
  end

  # What the server does by itself, with forty messages to send, forty orders and as many hours of quotes to forget.
  def test_duties_ask_no_query_for_each_row_and_read_what_grows_by_an_index
    api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: Server::Records::Webhook::EVENTS })
    order
    old = Time.now - (900 * 86_400)
    attributes = Server::Records::Order.first.attributes.except("id", "number")
    40.times do |at|
      Server::Announcements.tell("proof.failing", { proofs: [], count: at }, now: at.even? ? old : Time.now)
      Server::Records::Order.create!(**attributes, number: "B-#{at}", quote: "B-#{at}", placed_at: old)
    end
    duties = Server::Duties.new(releases: releases, suite: Server::App.settings.suite)
    asked = queries { duties.round }
    # Each message that was sent is noted by itself, so that none is noted twice.
    assert_empty(repeated(asked.grep_v(/webhook_deliveries/)))
    # Twenty of those, and the one of the release.
    assert_equal [21, 21], [Server::Records::WebhookMessage, Server::Records::WebhookDelivery].map(&:count)
    # Sessions are seen at every request and tidied once an hour: an index by when would cost more than it saves.
    assert_empty scans(asked).grep_v(/\ASCAN sessions: DELETE/)
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
