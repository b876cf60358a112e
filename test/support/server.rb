# frozen_string_literal: true

require "minitest/autorun"
require "tmpdir"
require "fileutils"

# What browsers look at runs in a process of its own: then it has the database, and this process only looks into it.
apart = defined?(Apart)
unless apart
  database = File.join(Dir.mktmpdir("gate-mile"), "test.sqlite3")
  Minitest.after_run { FileUtils.rm_rf(File.dirname(database)) }
  ENV["GATE_MILE_DATABASE"] = database
end
ENV["GATE_MILE_ECHO"] = "1"
# What is looked at must not depend on how busy this machine is.
ENV["GATE_MILE_PATIENCE"] = "30"
ENV["GATE_MILE_AUDIT_WAIT"] = "30"
ENV["GATE_MILE_AUDIT_REST"] ||= "0"
ENV["GATE_MILE_DUTIES"] = "0"
# Stand-ins for carriers and for those who are told something are here.
ENV["GATE_MILE_OUTGOING"] = "127.0.0.1"
Apart.start if apart
require_relative "rounds"
require_relative "../../server/boot"
require "rack/test"
if apart
  ENV["GATE_MILE_DATABASE"] = Apart.ready
  Server::Database.connect
end

# Requests through the whole stack of config.ru; every answer is held against the contract.
module ServerSupport
  include Rack::Test::Methods

  STACK = defined?(Apart) ? Apart.relay : Rack::Builder.parse_file(File.join(Server::ROOT, "server/config.ru"))
  # What the first process of a run makes for all of them, in the folder that test/run.rb names: nil for a process alone.
  MADE = ENV.fetch("GATE_MILE_TEST_MADE", nil)

  # The demo as one book: loaded once as merchants load it, then read out again.
  # @return [Hash]
  def self.whole_demo
    return Apart.application.demo if defined?(Apart)

    file = MADE && File.join(MADE, "demo")
    unless file && File.exist?(file)
      Server::Demo.load
      book = Server::BookDocument.read
      return book if file.nil?

      whole(file) { |part| File.write(part, JSON.generate(book)) }
    end
    JSON.parse(File.read(file))
  end

  # A file is there for others when all of it is; where two make the same, the first one's counts, for both.
  def self.whole(file)
    part = "#{file}.#{Process.pid}"
    yield part
    File.link(part, file)
  rescue Errno::EEXIST
    nil
  ensure
    FileUtils.rm_f(part)
  end

  WHOLE_DEMO = whole_demo
  FLAT = { "uk-collect" => "0.00", "uk-tracked" => "5.95", "uk-next-day" => "9.80", "uk-pallet" => "38.00", "hi-tracked" => "11.50",
           "hi-pallet" => "62.00", "ni-tracked" => "8.20", "ni-next-day" => "16.40", "iom-tracked" => "11.50", "iom-pallet" => "96.00",
           "ie-tracked" => "12.90", "ie-pallet" => "118.00", "near-tracked" => "16.50", "near-air" => "27.00", "further-tracked" => "21.50",
           "further-air" => "32.00", "america-air" => "38.50" }.freeze
  # The same with one flat price for every rate, without offers and rules: what is about neither can count on them.
  DEMO = WHOLE_DEMO.merge("proofs" => [], "offers" => [], "rules" => [], "rates" => WHOLE_DEMO["rates"].select { |rate| FLAT.key?(rate["id"]) }.map do |rate|
    rate.except("areas", "cost").merge("plan" => { "schedule" => { "kind" => "flat", "amount" => FLAT[rate["id"]] } })
  end).freeze
  CART = JSON.parse(File.read(File.join(Server::ROOT, "demo/cart.json")))
  SHOP = { "name" => "Knot & Sons", "country" => "IE", "currency" => "EUR", "time_zone" => "Europe/Dublin", "weight_unit" => "kg",
           "length_unit" => "cm", "prices_include_tax" => true, "ship_from" => { "country" => "IE", "lines" => ["The Pier"] } }.freeze

  def app = STACK

  # As browsers ask: with HTTP/1.0 proxies do.
  def current_session = newer(super)

  # @return [Rack::Test::Session] for what asks in a thread of its own
  def another_session = newer(Rack::Test::Session.new(app)).tap { |session| session.header("Host", "localhost") }

  # Emptied in this order.
  TABLES = ["quote_hours", "taken_notices", "turned_away", "offered_methods", "audit_entries", "recovery_codes", "sessions", "invitations", "people",
            "webhooks", "webhook_messages", "order_offers", "orders", "publications", "releases",
            "main.sqlite_sequence WHERE name IN ('releases', 'publications')", "checkout_keys",
            "door_settings", "changes", "sleeping_findings", "proofs", "offers", "rules", "coupons", "customer_groups", "boxes", "carriers",
            "treatment_targets", "treatments", "rates", "areas", "zones", "shipping_methods", "products WHERE parent_id IS NOT NULL", "products",
            "shipping_classes", "tax_classes", "stores"].freeze
  # The shops that many tests begin with: each is put aside as a database, and taken over from there.
  SHOPS = { DEMO => "flat", WHOLE_DEMO => "whole" }.compare_by_identity

  # Starts over with the given book, or with no shop at all.
  def fresh(book = DEMO)
    Server::Beside.finish
    connection = ActiveRecord::Base.connection
    ActiveRecord::Base.transaction { TABLES.each { |table| connection.execute("DELETE FROM #{table}") } }
    Server::App.settings.shelf.clear
    Server::App.settings.suite.clear
    Server::Journal.clear
    Server::Announcements.clear
    Server::SignIn.tries.clear
    [Server::Carriers::Port, Server::Carriers::Calls, Server::Carriers::Lines].each(&:clear)
    FileUtils.rm_rf(Server::Nightly.folder)
    [Server::People, Server::Sessions].each(&:changed)
    clear_cookies
    %i[releases comparisons checkout].each { |one| Server::App.settings.public_send(one).clear }
    return if book.nil?

    name = SHOPS[book] or return Server::BookRecords.write(book, opening_cart: CART)
    file = File.join(MADE || File.dirname(ENV.fetch("GATE_MILE_DATABASE")), "#{name}.sqlite3")
    return take_over(file) if File.exist?(file)

    Server::BookRecords.write(book, opening_cart: CART)
    ServerSupport.whole(file) { |part| connection.execute("VACUUM INTO '#{part}'") }
  end

  # Every row of such a copy, the ones that others refer to first.
  def take_over(file)
    connection = ActiveRecord::Base.connection
    connection.execute("ATTACH '#{file}' AS aside")
    tables = TABLES.grep_v(/WHERE/).reverse
    ActiveRecord::Base.transaction { tables.each { |table| connection.execute("INSERT INTO main.#{table} SELECT * FROM aside.#{table} ORDER BY rowid") } }
  ensure
    connection.execute("DETACH aside")
  end

  # @return [Object] the parsed body; the status is in last_response
  def api(verb, path, body = nil, **headers)
    header "Host", "localhost"
    sent = body.is_a?(String) || body.nil? ? body : JSON.generate(body)
    env = { "CONTENT_TYPE" => "application/json" }.merge(headers.transform_keys(&:to_s))
    public_send(verb, path, *(verb == :get ? [{}, env] : [sent, env]))
    hold_against_contract(verb, path.split("?").first)
    return last_response.body if last_response.content_type.to_s.match?(/csv|ndjson|sqlite3/)

    last_response.body.empty? ? nil : JSON.parse(last_response.body)
  end

  # Something outside the setup: a key, a webhook, somebody's account.
  # @param path [String] of one
  # @return [Hash] as it is listed now
  def shown(path)
    list, id = path.match(%r{\A(/api/\w+)(?:/(.+))?\z}).captures
    all = api(:get, list)
    id ? all.values.flatten.find { |one| one["id"].to_s == id } : all["person"]
  end

  # @return [Object] what {#api} returns for an edit of its current state
  def edit_beside(path, fields) = api(:patch, path, { **fields, edition: shown(path).fetch("edition") })

  # @yield what the server may complain of
  # @return [String] what it said
  def quietly
    Server::Log.to = said = StringIO.new
    yield
    said.string
  ensure
    Server::Log.to = nil
  end

  # Waits only so long for a database that is busy.
  # @param milliseconds [Integer]
  def patient(milliseconds)
    before = Server::Database.patience
    waiting(milliseconds)
    yield
  ensure
    waiting(before)
  end

  def setup_now = api(:get, "/api/setup")
  def find(list, id) = setup_now.fetch(list).find { |item| item["id"] == id }
  def status = last_response.status
  def pointers(answer) = answer.fetch("errors").map { |error| error.fetch("pointer") }

  # @return [Array] the operations of the contract that were used
  def self.used = @used ||= []

  private

  # For connections that no other thread is using, and for new ones.
  def waiting(milliseconds)
    Server::Database.patience = milliseconds
    free = ActiveRecord::Base.connection_pool.connections.select { |one| [nil, Thread.current].include?(one.owner) }
    free.filter_map { |one| one.instance_variable_get(:@raw_connection) }
        .each { |connection| connection.busy_handler_timeout = milliseconds }
  end

  def newer(session) = session.tap { |one| one.env("SERVER_PROTOCOL", "HTTP/1.1") }

  def hold_against_contract(verb, path)
    template, operation = operation_of(verb, path)
    type = last_response.content_type.to_s.split(";").first
    if operation.nil? || status >= 400
      assert_equal "application/problem+json", type, last_response.body
      return assert_empty(mismatches(Server::Contract.document.schema("Problem")))
    end
    ServerSupport.used << [verb, template]
    assert operation.fetch("responses").key?(status.to_s),
           "#{verb} #{path} answered #{status}, which the contract does not name"
    return if status == 204 || %w[text/csv application/vnd.sqlite3].include?(type)
    return hold_lines(path == "/api/several" ? "SeveralLine" : "ImportLine") if type == "application/x-ndjson"

    place = "#/paths/#{template.gsub("/", "~1").gsub("{", "%7B").gsub("}", "%7D")}/#{verb}/responses/#{status}"
    reference = operation.dig("responses", status.to_s, "$ref")
    schema = Server::Contract.document.ref("#{reference || place}/content/application~1json/schema")
    assert_empty mismatches(schema), "#{verb} #{path}"
  end

  def hold_lines(name)
    schema = Server::Contract.document.schema(name)
    last_response.body.each_line { |line| assert_empty(schema.validate(JSON.parse(line)).map { |error| error["error"] }) }
  end

  def mismatches(schema) = schema.validate(JSON.parse(last_response.body)).map { |error| error["error"] }

  def operation_of(verb, path)
    paths = Server::Contract.source["paths"]
    template = paths.keys.select do |key|
      path.match?(/\A#{key.gsub(/\{\w+\}/, "[^/]+")}\z/)
    end.min_by { |key| key.count("{") }
    [template, template && paths[template][verb.to_s]]
  end
end
