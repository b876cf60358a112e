# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/raw_carrier"

# The parts of a quote process: its folder, what it takes over, the courier, and orders that wait.
class QuotingTest < Minitest::Test
  include CheckoutSupport

  # A workbench that answers as it is told, or is away.
  class Workbench
    attr_accessor :away, :refusing, :unknown
    attr_reader :sent

    def initialize(checkout)
      @checkout = checkout
      @sent = []
    end

    def get(call, etag = nil)
      raise Server::Workbench::Away, "away" if away
      return [@checkout.book(Integer(call[/\d+/])), nil] if call.start_with?("book/")

      text = JSON.generate(@checkout.state)
      mark = Digest::SHA256.hexdigest(text)
      [text, mark] unless mark == etag
    end

    def tell(verb, call, body)
      raise Server::Workbench::Away, "away" if away

      @sent << [verb, call, body]
      return [404, {}, ["{}"]] if unknown && call == unknown

      [refusing && body["order"] == refusing ? 409 : 201, {}, ["{}"]]
    end
  end

  def setup
    fresh(WHOLE_DEMO)
    publish
    @key = key_for
    @path = Dir.mktmpdir
    @folder = Server::ReleaseFolder.new(@path)
    @queue = Server::OrderQueue.new(File.join(@path, "orders"))
    @workbench = Workbench.new(checkout)
    @noticed = Server::OrderQueue.new(File.join(@path, "notices"))
    @notices = Server::Notices.new(@noticed)
    @courier = Server::Courier.new(@workbench, @folder, @queue, @noticed)
    @courier.round
    @ground = Server::QuoteGround.new(@folder)
    @process = Server::QuoteCheckout.new(@ground, Server::RelayedOrders.new(@workbench, @queue), @queue, @notices)
    @door = Server::CheckoutDoor.new(->(_) { [404, {}, []] }, @process)
  end

  def teardown = FileUtils.rm_rf(@path)

  # A request to the process itself.
  def through(verb, call, body = nil)
    text = body ? JSON.generate(body) : ""
    env = Rack::MockRequest.env_for("/checkout/v1/#{call}", method: verb, input: text, "CONTENT_TYPE" => "application/json",
                                                            "HTTP_AUTHORIZATION" => "Bearer #{@key}")
    status, _, parts = @door.call(env)
    [status, JSON.parse(parts.join)]
  end

  # What the workbench answers is what the process answers, but for the moment and the seal.
  def test_a_process_answers_as_the_workbench
    status, answer = through("POST", "quotes", { cart: cart })
    assert_equal 200, status
    assert_equal quoted.except("quote", "at", "holds_until"), answer.except("quote", "at", "holds_until")
    placed = ask(:post, "orders", { order: "1", quote: answer["quote"], method: "TRACKED" })
    assert_equal price(answer), placed["price"], "the workbench opens what a process has sealed"
    %w[methods served offers].each { |call| assert_equal ask(:get, call), through("GET", call).last }
    assert_equal 403, through("GET", "state").first
  end

  # A new release is taken over at the next look; what is damaged is told, and the one before stays.
  def test_a_damaged_release
    reprice("uk-tracked", "6.95")
    publish(overrule: "Dearer")
    whole = Server::Records::Release.find(2).text
    @courier.round
    file = File.join(@path, "release-2.json")
    File.write(file, whole[0, whole.size / 2])
    said = quietly { @ground.look }
    assert_match(/release-2\.json is not what it should be/, said)
    assert_equal([1, "5.95"], through("POST", "quotes", { cart: cart }).last.then { |one| [one["release"], price(one)] })
    assert_match(/not what it should be/, @process.status[:trouble])
    File.write(File.join(@path, "state.json"), "{")
    quietly { @ground.look }
    assert_equal 1, @ground.ready.number
    File.write(file, whole)
    @folder.keep_state(JSON.parse(JSON.generate(checkout.state)))
    @ground.look
    assert_equal [2, nil], [@ground.ready.number, @process.status[:trouble]]
  end

  # Cut short after it came: it is brought once more, though the workbench has nothing new, and taken over then.
  def test_a_book_that_is_mended
    reprice("uk-tracked", "6.95")
    publish(overrule: "Dearer")
    @courier.round
    file = File.join(@path, "release-2.json")
    File.truncate(file, 1000)
    quietly { 2.times { @ground.look } }
    assert_equal 1, @ground.ready.number
    @courier.round
    @ground.look
    assert_equal [2, nil], [@ground.ready.number, @process.status[:trouble]]
  end

  # A courier mends what is damaged in the folder: it brings the book once more.
  def test_a_courier_brings_what_is_missing
    FileUtils.rm_f(File.join(@path, "release-1.json"))
    Server::Courier.new(@workbench, @folder, @queue).round
    assert @folder.book?({ "number" => 1, "digest" => checkout.state[:release][:digest] })
    @workbench.away = true
    quietly { refute @courier.round }
    @workbench.away = false
    assert @courier.round
  end

  def test_only_the_last_books_are_kept
    6.times { |at| @folder.keep_book(at + 10, "{}") }
    assert_equal %w[1 12 13 14 15], Dir[File.join(@path, "release-*.json")].map { |name| name[/\d+(?=\.json)/] }.sort
  end

  # Handed on while the workbench is there; else on the disk, in their order, until it is back.
  def test_orders_that_wait
    quote = through("POST", "quotes", { cart: cart }).last["quote"]
    order = ->(number) { through("POST", "orders", { order: number, quote: quote, method: "TRACKED" }) }
    assert_equal 201, order.call("1").first
    @workbench.away = true
    assert_equal([202, "5.95"], order.call("2").then { |status, told| [status, told["price"]] })
    assert_equal 202, through("PATCH", "orders/2", { state: "cancelled" }).first
    assert_equal [422, 422], [through("POST", "orders", { order: "3", quote: "x", method: "TRACKED" }).first,
                              through("POST", "orders", { order: "3", quote: quote, method: "AIR" }).first]
    quietly { @courier.round }
    assert_equal 2, @queue.size
    @workbench.away = false
    assert_equal 202, order.call("4").first, "nothing overtakes what waits"
    @courier.round
    assert_equal 0, @queue.size
    assert_equal([["orders", "1"], ["orders", "2"], ["orders/2", nil], ["orders", "4"]], @workbench.sent.map { |_, call, body| [call, body["order"]] })
    assert(@workbench.sent.drop(1).grep(->(one) { one[1] == "orders" }).all? { |_, _, body| body["placed_at"] })
  end

  # What a quote process notices is the workbench's to tell: it is gathered, and goes on being gathered while that is away.
  def test_what_is_noticed
    nowhere = { "lines" => goods, "destination" => { "country" => "JP" } }
    @notices.hand_over
    assert_equal 0, @noticed.size, "nothing"
    3.times { through("POST", "quotes", { cart: nowhere }) }
    through("POST", "quotes", { cart: cart })
    light = Struct.new(:name).new("carrier petrel http://127.0.0.1:9")
    2.times { @notices.notify(light, Stoplight::Color::GREEN, Stoplight::Color::RED, nil) }
    @notices.notify(light, Stoplight::Color::YELLOW, Stoplight::Color::RED, nil)
    @notices.hand_over
    @courier.round
    verb, call, told = @workbench.sent.first
    assert_equal [1, :post, "notices", 3, ["petrel"]], [@workbench.sent.size, verb, call, *told.values_at("nothing_offered", "carriers_down")]
    # What was asked goes along, and the workbench takes it as it comes.
    assert_equal({ "not_served" => 3, "priced" => 1 }, told["asked"]["quotes"].to_h { |one| one.values_at("outcome", "times") })
    Server::Contract.check("CheckoutNotices", told)
    Server::AskedRows.store(told["asked"])
    assert_equal(["JP", 3], Server::Records::TurnedAway.first.then { |row| [row.country, row.times] })
    @workbench.away = true
    30.times do
      @notices.note
      @notices.hand_over
    end
    quietly { @courier.round }
    assert_operator @noticed.size, :<, 30
    @workbench.away = false
    @courier.round
    @notices.hand_over
    @courier.round
    assert_equal(33, @workbench.sent.sum { |_, _, body| body["nothing_offered"] })
    @key = key_for("Another", calls: %w[state])
    @courier.round
    @ground.look
    assert_equal 404, through("POST", "notices", { nothing_offered: 1, carriers_down: [] }).first, "only the workbench hears"
  end

  # Too late while the workbench is away: both prices are told here, and the new quote is the shop's own.
  def test_a_quote_that_ran_out
    quote = through("POST", "quotes", { cart: cart }).last["quote"]
    reprice("uk-tracked", "6.95")
    publish(overrule: "Dearer")
    @courier.round
    @ground.look
    @workbench.away = true
    later(16 * 60) do
      status, told = through("POST", "orders", { order: "1", quote: quote, method: "TRACKED" })
      assert_equal [409, "5.95", "6.95", 0], [status, *told.values_at("promised", "now"), @queue.size]
      assert_equal 202, through("POST", "orders", { order: "1", quote: told["quote"]["quote"], method: "TRACKED" }).first
    end
  end

  # What is refused when it is handed on is kept apart and told; what comes after it goes on.
  def test_what_is_refused_later
    quote = through("POST", "quotes", { cart: cart }).last["quote"]
    @workbench.away = true
    %w[1 2].each { |number| through("POST", "orders", { order: number, quote: quote, method: "TRACKED" }) }
    @workbench.away = false
    @workbench.refusing = "1"
    said = quietly { @courier.round }
    assert_match(/orders: 409/, said)
    assert_equal [0, 1], @process.status.values_at(:waiting, :refused)
    assert_equal(%w[1 2], @workbench.sent.map { |_, _, body| body["order"] })
  end

  # What closes an order that still waits at another quote server comes too early: it goes on waiting, for a day, and what
  # comes after it does not.
  def test_what_comes_too_early
    quote = through("POST", "quotes", { cart: cart }).last["quote"]
    @workbench.away = true
    through("PATCH", "orders/7", { state: "cancelled" })
    through("POST", "orders", { order: "8", quote: quote, method: "TRACKED" })
    @workbench.away = false
    @workbench.unknown = "orders/7"
    2.times { @courier.round }
    assert_equal [1, 0, "orders"], [*@process.status.values_at(:waiting, :refused), @workbench.sent[1][1]]
    assert_operator @queue.age, :>, 0
    assert_equal 201, through("POST", "orders", { order: "9", quote: quote, method: "TRACKED" }).first, "it is overtaken"
    @workbench.unknown = nil
    @courier.round
    assert_equal [0, 0, "orders/7"], [*@process.status.values_at(:waiting, :refused), @workbench.sent.last[1]]
    @queue.put({ "verb" => "patch", "call" => "orders/6", "body" => {} })
    @queue.each_in_order { :early }
    @queue.each_in_order(Time.now + 90_000) { :early }
    assert_equal [0, 1], @process.status.values_at(:waiting, :refused)
  end

  # Files that are cut, empty or something else are kept apart, and block none behind them.
  def test_a_broken_file_in_the_queue
    @queue.put({ verb: :post, call: "orders", body: { order: "1" } })
    broken = ["", "{", "null", "[]", "{\"verb\":\"post\"}"]
    broken.each_with_index { |text, at| File.write(File.join(@path, "orders", format("%020d-0.json", at)), text) }
    @queue.put({ verb: :post, call: "orders", body: { order: "2" } })
    assert @courier.round
    assert_equal [%w[1 2], 0, broken.size], [@workbench.sent.map { |_, _, body| body["order"] }, @queue.size, @queue.refused]
  end

  # An order that can't be kept is not taken: the shop hears why, and nothing is left of it. While one waits its age is told.
  def test_a_full_disk_of_a_quote_server
    quote = through("POST", "quotes", { cart: cart }).last["quote"]
    @workbench.away = true
    order = -> { through("POST", "orders", { order: "1", quote: quote, method: "TRACKED" }) }
    { Errno::ENOSPC => 507, Errno::EIO => 503 }.each do |error, code|
      File.stub(:rename, ->(*) { raise error }) { quietly { assert_equal code, order.call.first } }
      assert_equal %w[early refused], Dir.children(File.join(@path, "orders")).sort
    end
    assert_equal 202, order.call.first
    File.utime(Time.now - 90, Time.now - 90, *Dir[File.join(@path, "orders", "*.json")])
    assert_in_delta 90, @process.status[:oldest], 5
    assert_in_delta 0, @process.status[:seen], 5
    assert_in_delta 0, @process.status[:age], 30
  end

  # Whatever comes from its address and is no answer of the contract says that the workbench is away; nothing leaves the queue by it.
  def test_what_is_no_answer_of_the_workbench
    problem = { type: "about:blank", title: "Not here", status: 404, detail: "There is no order 9." }
    page = { "content-type" => "text/html" }
    said = { "301 Moved Permanently" => ["", { "location" => "/" }], "403 Forbidden" => ["<h1>No</h1>", page], "404 Not Found" => ["<h1>No</h1>", page],
             "200 OK" => ["<h1>Welcome</h1>", page], "201 Created" => ["{}", {}], "204 No Content" => ["", page], "422 Unprocessable" => ["{}", {}],
             "409 Conflict" => [JSON.generate(problem), { "content-type" => "application/problem+json" }], "500 Oops" => ["", {}], "401 Who" => ["{}", {}] }
    said.each do |status, (body, headers)|
      proxy = RawCarrier.new { |socket, _| socket.write(RawCarrier.response(body, status: status, headers: headers)) }
      workbench = Server::Workbench.new(proxy.origin, "key")
      if status.start_with?("204")
        assert_equal 204, workbench.tell(:post, "notices", {}).first
      else
        assert_raises(Server::Workbench::Away, status) { workbench.tell(:post, "orders", { order: "1" }) }
        assert_raises(Server::Workbench::Away, status) { workbench.get("state") }
      end
    ensure
      proxy.stop
    end
    proxy = RawCarrier.new do |socket, _|
      socket.write(RawCarrier.response(JSON.generate(problem), status: "404 Not Found", headers: { "content-type" => "application/problem+json" }))
    end
    assert_equal 404, Server::Workbench.new(proxy.origin, "key").tell(:patch, "orders/9", {}).first, "the contract's own word"
  ensure
    proxy&.stop
  end

  # The answer to a message was lost: it is sent again, and counts once.
  def test_notices_count_once
    own = key_for("Quote servers", calls: %w[state])
    3.times { through("POST", "quotes", { cart: { "lines" => goods, "destination" => { "country" => "JP" } } }) }
    @notices.hand_over
    @courier.round
    body = JSON.parse(JSON.generate(@workbench.sent.last.last))
    2.times { assert_equal 204, ask(:post, "notices", body, key: own) || last_response.status }
    assert_equal [3], Server::Records::TurnedAway.pluck(:times)
    another = body.merge("id" => "another")
    ask(:post, "notices", another, key: own)
    assert_equal [6], Server::Records::TurnedAway.pluck(:times)
  end

  # Both files of the newest release are cut while no process runs: whichever starts now, and however many, answers from the newest that is
  # whole; and one that still holds the newest puts it back.
  def test_files_that_are_cut
    reprice("uk-tracked", "6.95")
    publish(overrule: "Dearer")
    @courier.round
    @ground.look
    %w[release-2.json state.json].each { |name| File.truncate(File.join(@path, name), 500) }
    grounds = nil
    quietly { grounds = Array.new(3) { Server::QuoteGround.new(@folder) } }
    assert_equal([1, 1, 1], grounds.map { |one| one.ready.number })
    assert(grounds.all? { |one| one.trouble.include?("release-2.json") })
    @ground.look
    grounds.each(&:look)
    assert_equal [2, 2, 2, nil], [*grounds.map { |one| one.ready.number }, grounds.first.trouble]
    %w[null [] 3 {}].each do |text|
      %w[state.json state-copy.json].each { |name| File.write(File.join(@path, name), text) }
      assert_equal 1, Server::QuoteGround.new(@folder).ready.number, "the state of the release before is whole"
      @courier.round
    end
    assert_equal 2, Server::QuoteGround.new(@folder).ready.number
  end

  # In the order in which they came, though the clock was put back between them.
  def test_a_clock_that_jumps
    @queue.put({ "call" => "first" })
    Process.stub(:clock_gettime, 1) { @queue.put({ "call" => "second" }) }
    heard = []
    @queue.each_in_order { |call| heard << call["call"] }
    assert_equal %w[first second], heard
  end

  # What a quote server hands on is the shop's own order, at the moment at which the shop told it.
  def test_handed_on
    own = key_for("Quote servers", calls: %w[state])
    quote = quoted["quote"]
    family = Server::Records::CheckoutKey.find_by(name: "Shop").family
    told = (Time.now - 5).utc.iso8601
    later(3600) do
      placed = ask(:post, "orders", { order: "1", quote: quote, method: "TRACKED", placed_at: told, family: family }, key: own)
      assert_equal [201, told], [last_response.status, placed["placed_at"]], "it held when the shop told it"
    end
    assert_equal "Shop", Server::Records::Order.find("1").key_name
    ask(:post, "orders", { order: "2", quote: quote, method: "TRACKED", placed_at: "soon", family: family }, key: own)
    assert_equal [422, %w[/placed_at]], [last_response.status, pointers(JSON.parse(last_response.body))]
    later(3600) do
      late = ask(:post, "orders", { order: "2", quote: quote, method: "TRACKED", family: family }, key: own)
      assert_equal 201, ask(:post, "orders", { order: "2", quote: late["quote"]["quote"], method: "TRACKED" }) && last_response.status,
                   "the new quote is the shop's, not the quote server's"
    end
    # Each shop's calls are its own, through a quote server as well.
    other = key_for("Another shop")
    others = Server::Records::CheckoutKey.find_by(name: "Another shop").family
    [[{ state: "returned", family: others }, own, 404], [{ state: "returned" }, own, 404], [{ state: "returned", family: family }, @key, 422],
     [{ state: "returned" }, other, 404]].each do |body, key, expected|
      assert_equal expected, ask(:patch, "orders/1", body, key: key) && last_response.status, body.to_s
    end
    theirs = ask(:post, "quotes", { cart: cart }, key: other)["quote"]
    taken = ask(:post, "orders", { order: "1", quote: theirs, method: "TRACKED" }, key: other)
    assert_equal [409, "Order number 1 is taken. Choose another.", nil], [last_response.status, *taken.values_at("detail", "current")]
    assert_equal 422, ask(:post, "orders", { order: "9", quote: theirs, method: "TRACKED", family: family }, key: own) && last_response.status
    ask(:patch, "orders/1", { state: "returned", family: family }, key: own)
    assert_equal 200, last_response.status
    state = ask(:get, "state", key: own)
    assert_equal [1, checkout.state[:release][:digest]], state["release"].values_at("number", "digest")
    begin
      ask(:get, "state", key: own, HTTP_IF_NONE_MATCH: last_response.headers["etag"])
    rescue StandardError
      nil
    end
    assert_equal 403, ask(:get, "state") && last_response.status
    assert_equal 404, ask(:get, "book/9", key: own) && last_response.status
  end

  # A process that has nothing yet says so; so does one whose pace is over.
  def test_before_there_is_a_release
    empty = Server::QuoteGround.new(Server::ReleaseFolder.new(File.join(@path, "empty")))
    door = Server::CheckoutDoor.new(nil, Server::QuoteCheckout.new(empty, nil, @queue, @notices))
    env = Rack::MockRequest.env_for("/checkout/v1/methods", "HTTP_AUTHORIZATION" => "Bearer #{@key}")
    assert_equal 401, door.call(env).first, "it knows no key"
    assert_nil empty.ready
  end
end
