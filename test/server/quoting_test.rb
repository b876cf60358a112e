# frozen_string_literal: true

require_relative "../support/checkout"

# The parts of a quote process: its folder, what it takes over, the courier, and orders that wait.
class QuotingTest < Minitest::Test
  include CheckoutSupport

  # A workbench that answers as it is told, or is away.
  class Workbench
    attr_accessor :away, :refusing
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
    assert_equal %w[12 13 14 15], Dir[File.join(@path, "release-*.json")].map { |name| name[/\d+(?=\.json)/] }.sort
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
    told = (Time.now - 5).utc.iso8601
    later(3600) do
      placed = ask(:post, "orders", { order: "1", quote: quote, method: "TRACKED", placed_at: told }, key: own)
      assert_equal [201, told], [last_response.status, placed["placed_at"]], "it held when the shop told it"
    end
    assert_equal "Shop", Server::Records::Order.find("1").key_name
    ask(:post, "orders", { order: "2", quote: quote, method: "TRACKED", placed_at: "soon" }, key: own)
    assert_equal [422, %w[/placed_at]], [last_response.status, pointers(JSON.parse(last_response.body))]
    later(3600) do
      late = ask(:post, "orders", { order: "2", quote: quote, method: "TRACKED" }, key: own)
      assert_equal 201, ask(:post, "orders", { order: "2", quote: late["quote"]["quote"], method: "TRACKED" }) && last_response.status,
                   "the new quote is the shop's, not the quote server's"
    end
    ask(:patch, "orders/1", { state: "returned" }, key: own)
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
