# frozen_string_literal: true

require_relative "../support/server"

class RobustTest < Minitest::Test
  include ServerSupport

  NONSENSE = [nil, true, -1, 1.5, "", " ", "x" * 300, "\u0000", "4.505", [], {}, [nil], "IV, #, 1999 to 1000",
              10**20].freeze

  # Whatever is sent to whatever address: an answer of the contract, and never a 500.
  def test_nonsense_never_breaks_the_server
    fresh(DEMO.merge("products" => DEMO["products"].first(5)))
    random = Random.new(4)
    bodies = good_bodies
    400.times do
      verb, path, body = bodies.sample(random: random)
      body = body.merge(body.keys.sample(random: random) => NONSENSE.sample(random: random)) if random.rand(5).positive?
      body = body.merge("surplus" => 1) if random.rand(9).zero?
      api(verb, path, body)
      refute_equal 500, status, "#{verb} #{path} #{body}"
    end
    assert_equal(200, api(:post, "/api/quote", CART).then { status })
    GateMile::Book.compile(Server::BookDocument.read)
  end

  # The rest of the world has no postcodes of its own: clauses that were pasted for it are refused, and the setup is read as before.
  def test_postcodes_of_the_whole_world
    fresh
    version = find("zones", "highlands")["lock_version"]
    %w[only except].each do |list|
      answer = api(:post, "/api/zones/highlands/areas", { lock_version: version, areas: [{ kind: "world", list => "IV" }] })
      assert_equal [422, ["/areas/0/#{list}"]], [status, pointers(answer)]
    end
    assert_equal 200, (api(:get, "/api/coverage") && status)
    api(:post, "/api/zones/highlands/areas", { lock_version: version, areas: [{ kind: "world", only: "" }] })
    assert_equal 201, status
    assert_equal "priced", api(:post, "/api/quote", CART)["status"]
  end

  # Several tabs at once: each edit is either stored whole or told, and the history holds every stored one.
  def test_edits_at_the_same_moment
    fresh
    answers = Array.new(4) do |thread|
      Thread.new do
        session = another_session
        Array.new(8) do |number|
          rate = JSON.parse(session.get("/api/setup").body)["rates"].find { |found| found["id"] == "uk-tracked" }
          plan = { schedule: { kind: "flat", amount: "#{thread}.#{number}0" } }
          answer = session.patch("/api/rates/uk-tracked", JSON.generate({ lock_version: rate["lock_version"], plan: plan }),
                                 "CONTENT_TYPE" => "application/json")
          [200, 409].include?(answer.status) ? answer.status : answer.body
        end
      end
    end.flat_map(&:value)
    assert_empty answers - [200, 409]
    changes = api(:get, "/api/history")["changes"]
    assert_operator answers.count(200), :>=, 8
    amounts = changes.map { |change| change["names"].values_at("from", "to") }
    amounts.each_cons(2) { |newer, older| assert_equal older.last, newer.first }
    assert_equal "5.95", amounts.last.first
    changes.each { |change| api(:post, "/api/history/undo", { change: change["id"] }) }
    assert_equal "5.95", find("rates", "uk-tracked")["plan"]["schedule"]["amount"]
  end

  def test_the_built_front_end_and_its_headers
    header "Host", "127.0.0.1"
    get "/zones?to=GB"
    assert_equal [200, "no-cache"], [status, last_response["cache-control"]]
    assert_includes last_response["content-security-policy"], "default-src 'self'"
    script = last_response.body[%r{/assets/[\w.-]+\.js}]
    get script, {}, "HTTP_ACCEPT_ENCODING" => "gzip"
    assert_equal [200, "gzip", "accept-encoding", "nosniff"],
                 [status, *%w[content-encoding vary x-content-type-options].map { |name| last_response[name] }]
    assert_match(/immutable/, last_response["cache-control"])
    assert_match(/javascript/, last_response["content-type"])
    sent = last_response.body
    assert_equal File.binread(File.join(Server::Settings.web, "#{script}.gz")), sent.b, "compressed when it was built, not when it is asked for"
    get script, {}, "HTTP_ACCEPT_ENCODING" => "gzip, deflate, br"
    assert_equal [200, "br", "accept-encoding", "nosniff"],
                 [status, *%w[content-encoding vary x-content-type-options].map { |name| last_response[name] }]
    assert_match(/javascript/, last_response["content-type"])
    assert_equal File.binread(File.join(Server::Settings.web, "#{script}.br")), last_response.body.b
    assert_operator last_response.body.bytesize, :<, sent.bytesize
    ["gzip, br;q=0", "brotli", ""].each do |accepted|
      get script, {}, "HTTP_ACCEPT_ENCODING" => accepted
      refute_equal "br", last_response["content-encoding"], accepted
    end
    get script, {}, "HTTP_ACCEPT_ENCODING" => "identity"
    assert_nil last_response["content-encoding"]
    assert_equal Zlib.gunzip(sent).b, last_response.body.b
    get script, {}, "HTTP_IF_MODIFIED_SINCE" => last_response["last-modified"]
    assert_equal 304, status
    ["/assets/../../server/boot.rb", "/assets/nothing.js", "/assets/%2e%2e/index.html"].each do |path|
      get path
      assert_operator status, :>=, 400, path
    end
  end

  def test_bin_start_says_what_is_wrong
    taken = TCPServer.new("127.0.0.1", 0)
    start = File.join(Server::ROOT, "bin/start")
    { { "PORT" => taken.addr[1].to_s } => [start, /port \d+ is taken/], { "PORT" => "http" } => [start, /PORT must be/],
      { "PORT" => "4999" } => ["#{start} --fast", /unknown option --fast/] }.each do |env, (command, message)|
      out = IO.popen(env, command, err: %i[child out], &:read)
      assert_match message, out
    end
    out = IO.popen({ "PATH" => "/usr/bin:/bin", "HOME" => "/nowhere" }, "bash -c 'node() { :; }; PATH=/bin/none; source bin/install'",
                   chdir: Server::ROOT, err: %i[child out], &:read)
    assert_match(/ruby is missing/, out)
  ensure
    taken&.close
  end

  private

  def good_bodies
    area = find("zones", "highlands")["areas"].first["id"]
    plan = { "schedule" => { "kind" => "flat", "amount" => "1.00" } }
    address = { "country" => "GB", "region" => "SCT", "postcode" => "IV1", "lines" => ["PO Box 1"] }
    [[:post, "/api/zones", { "name" => "N", "active" => true, "areas" => [{ "kind" => "country", "country" => "JP" }] }],
     [:patch, "/api/zones/highlands", { "lock_version" => 0, "name" => "H", "active" => false }],
     [:post, "/api/zones/ireland/areas", { "lock_version" => 0, "areas" => [{ "kind" => "country", "country" => "IS" }] }],
     [:patch, "/api/areas/#{area}", { "lock_version" => 0, "regions" => ["SCT"], "only" => "IV", "except" => "KW" }],
     [:put, "/api/zones/order", { "ids" => %w[mainland] }], [:post, "/api/methods", { "name" => "M", "code" => "M", "active" => true }],
     [:patch, "/api/methods/air", { "lock_version" => 0, "name" => "A", "code" => "AIR", "promise" => nil }],
     [:post, "/api/rates", { "zone" => "ireland", "method" => "air", "plan" => plan, "name" => nil }],
     [:patch, "/api/rates/uk-tracked", { "lock_version" => 0, "plan" => plan, "active" => true, "name" => "T" }],
     [:post, "/api/products", { "sku" => "S", "name" => "N", "price" => "1", "weight" => "1 kg", "length" => nil }],
     [:post, "/api/treatments", { "name" => "T", "zones" => ["mainland"], "methods" => ["air"], "price" => { "kind" => "along", "plus" => "1" },
                                  "travel" => { "never" => ["air"] }, "on" => { "classes" => ["long"] } }],
     [:post, "/api/products/bulk", { "scope" => { "q" => "a" }, "set" => { "weight" => "1 kg", "tags_add" => ["x"] }, "store" => true, "sure" => true }],
     [:post, "/api/products/cells", { "rows" => [{ "id" => "x", "lock_version" => 0, "cells" => { "sku" => "1" } }], "sure" => false }],
     [:post, "/api/products/import", { "csv" => "sku,name\nA,A\n", "mapping" => { "sku" => "sku", "name" => "name" },
                                       "store" => true, "sure" => false, "comma" => true }],
     [:post, "/api/comparison", { "zone" => "mainland", "sku" => "OAR-240", "quantities" => [1] }],
     [:post, "/api/classes", { "name" => "K", "description" => nil }],
     [:patch, "/api/store", { "lock_version" => 0, "name" => "S", "ship_from" => address, "currency" => "GBP" }],
     [:post, "/api/quote", { "lines" => [{ "sku" => "A", "quantity" => 1 }], "destination" => address }],
     [:post, "/api/bench", { "cart" => CART, "compare_to" => 1, "preview" => { "rate" => "uk-tracked", "plan" => plan } }],
     [:post, "/api/landing", address], [:post, "/api/landings", { "csv" => "country,postcode\nGB,IV1\n" }],
     [:post, "/api/clauses", { "country" => "GB", "text" => "IV" }], [:post, "/api/history/undo", { "change" => 1 }],
     [:post, "/api/zones/import", { "csv" => "zone,active,kind,country,regions,only,except\nA,yes,,,,,\n", "store" => true }]]
  end
end
