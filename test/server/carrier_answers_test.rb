# frozen_string_literal: true

require "zlib"
require_relative "../support/server"
require_relative "../support/carriers"
require_relative "../support/raw_carrier"

# Whatever a carrier sends, however slowly: it is classified, nothing of it breaks a quote, and it takes nobody else down.
class CarrierAnswersTest < Minitest::Test
  include ServerSupport
  include CarriersSupport

  OK = { "service" => "LETTER", "status" => "ok", "currency" => "GBP", "prices" => ["4.50"], "days" => [1, 2] }.freeze

  def setup
    fresh
    carriers
    Server::Carriers::Lines.clear
  end

  def teardown
    @raw&.each(&:stop)
    Server::Log.to = nil
  end

  # @return [Server::Records::Carrier] answered by the block
  def raw(&)
    carrier = RawCarrier.new(&)
    (@raw ||= []) << carrier
    Server::History.unrecorded { Server::Records::Carrier.find("petrel").update!(address: carrier.origin) }
    @last = carrier
    Server::Records::Carrier.find("petrel")
  end

  def saying(body, **more) = raw { |socket, _| socket.write(RawCarrier.response(body, **more)) }

  def request(services = ["LETTER"], parcels = 1)
    parcel = GateMile::AskedParcel.new(grams: 500, value: GateMile::Money.new(900, GateMile::Currency["GBP"]), count: 1)
    there = GateMile::Address.new(country: "GB", postcode: "TR29 4ZZ", lines: [])
    GateMile::CarrierRequest.new(carrier: "petrel", services: services, origin: GateMile::Address::UNKNOWN, destination: there,
                                 parcels: [parcel] * parcels, currency: GateMile::Currency["GBP"], hazardous: false)
  end

  # A lost call is made once more if there is time.
  def test_once_more_in_time
    tries = { 0.04 => 1, 5.0 => 2 }.to_h do |patience, _|
      client = Server::Carriers::Client.new(Server::Records::Carrier.first, patience)
      count = 0
      client.define_singleton_method(:read) { |*| (count += 1) && raise(Faraday::ConnectionFailed, "lost") }
      client.ask(request)
      [patience, count]
    end
    assert_equal({ 0.04 => 1, 5.0 => 2 }, tries)
  end

  def reply(carrier, patience = 2.0) = Server::Carriers::Client.new(carrier, patience).ask(request)

  def outcome(carrier)
    found = reply(carrier)
    [found.status, found.said || found.services["LETTER"]&.then { |service| [service.status, service.said] }]
  end

  def body(*services) = JSON.generate({ "services" => services })

  def test_every_answer_is_classified
    latin = "na\xEFf".b
    cases = {
      body(OK) => [:answered, [:ok, nil]],
      body(OK.merge("days" => [5, 1])) => [:answered, [:unusable, "days that run backwards"]],
      body(OK, OK.merge("prices" => ["9.00"])) => [:answered, [:unusable, "named twice, and differently"]],
      '{"services":[],"services":[]}' => [:unusable, "A field stands in it twice"],
      body(OK).sub('"status":"ok"', '"status":"refused","status":"ok"') => [:unusable, "A field stands in it twice"],
      body(OK).b.sub("GBP", latin) => [:unusable, "It is not UTF-8"],
      body({ "service" => "LETTER", "status" => "refused", "reason" => "X" }).b.sub("X", latin) => [:unusable, "It is not UTF-8"],
      body(OK.merge("currency" => "£££")) => [:answered, [:unusable, "in £££"]],
      body(OK.merge("prices" => ["4.50", "4.50"])) => [:answered, [:unusable, "for other parcels"]],
      body(OK.merge("prices" => ["4.505"])) => [:answered, [:unusable, "no amount of this currency"]],
      body({ "service" => "LETTER", "status" => "refused", "reason" => "Not\nthere\u0000" }) => [:answered, [:refused, "Not there"]],
      '{"services":[{"service":"LETTER","status":"refused","reason":"\ud800"}]}' => [:unusable, "It is not JSON"],
      "[" * 5000 => [:unusable, "It is not JSON"], "null" => [:unusable, "It has not the form of an answer"], "" => [:unusable, "It is not JSON"],
      "{\"services\": 1e400}" => [:unusable, "It is not UTF-8"]
    }
    cases.each { |text, expected| assert_equal expected, outcome(saying(text)), text[0, 120] }
  end

  def test_bodies_beside_the_point
    { ["422 Unprocessable", "Kein Versand nach \xFC".b] => [:refused, "Kein Versand nach �"], ["422 Unprocessable", ""] => [:refused, nil],
      ["401 Unauthorized", "\xFF\xFE".b] => [:unusable, "It does not accept the account"], ["302 Found", ""] => [:unusable, "It answers with 302"],
      ["500 Oops", "\xFF".b] => [:silent, "It answers with 500"], ["299 Odd", "x"] => [:unusable, "It answers with 299"] }.each do |(status, text), expected|
      found = reply(saying(text, status: status))
      expected[1].nil? ? assert_nil(found.said) : assert_equal(expected[1], found.said)
      assert_equal expected[0], found.status
      JSON.generate(found.said)
    end
  end

  # Said to be packed and plain, packed and said to be, packed and broken: nobody asked for any of it.
  def test_packing_that_nobody_asked_for
    assert_equal [:answered, [:ok, nil]], outcome(saying(body(OK), headers: { "content-encoding" => "gzip" }))
    assert_equal :unusable, reply(saying(Zlib.gzip(body(OK)), headers: { "content-encoding" => "gzip" })).status
    assert_equal :unusable, reply(saying("\x1F\x8Bnonsense".b, headers: { "content-encoding" => "deflate" })).status
    assert(@raw.all? { |carrier| carrier.asked.first.match?(/accept-encoding: identity/i) })
  end

  def test_half_an_answer_and_none
    assert_equal :unusable, reply(raw { |socket, _| socket.write("HTTP/1.1 200 OK\r\ncontent-length: 400\r\n\r\n{\"serv") }).status
    assert_equal :silent, reply(raw { |socket, _| socket.close }).status
    assert_equal :silent, reply(raw { |socket, _| socket.write("SSH-2.0-odd\r\n") }).status
    assert_equal "No answer in time", reply(raw { |_, _| sleep 3 }, 0.3).said
  end

  # One header a moment, for ever: late by the whole, however soon each of them comes.
  def test_headers_that_drip_count_against_the_deadline
    carrier = raw do |socket, _|
      socket.write("HTTP/1.1 200 OK\r\n")
      60.times do |at|
        sleep 0.05
        socket.write("x-drop-#{at}: 1\r\n")
      end
    end
    started = now
    assert_equal([:silent, "No answer in time"], reply(carrier, 0.4).then { |found| [found.status, found.said] })
    assert_operator now - started, :<, 1.5
    started = now
    assert_raises(Server::Carriers::Trouble) { Server::Carriers::Client.new(carrier, 0.4).services }
    assert_operator now - started, :<, 1.5
  end

  # Hanging calls to one origin take all of its connections, and none of another's; who waited for one is not to blame.
  def test_one_hanging_carrier_takes_no_other_down
    held = Queue.new
    hanging = raw { |_, _| held.pop }
    well = Server::Records::Carrier.find("gannet")
    threads = Array.new(Server::Carriers::Lines::SIZE) { Thread.new { reply(hanging, 20) } }
    200.times { break if @last.asked.size == threads.size || sleep(0.05).nil? }
    assert_equal threads.size, @last.asked.size
    waiting = reply(hanging, 0.2)
    assert_equal [:silent, "Too many questions at once"], [waiting.status, waiting.said]
    gannet = GateMile::CarrierRequest.new(**request.to_h, carrier: "gannet", services: well.services.map { |one| one["code"] }.first(1))
    assert_equal :answered, Server::Carriers::Client.new(well, 1.0).ask(gannet).status
    held.close
    threads.each(&:join)
    Server::Carriers::Lines.clear
    Stoplight.default_data_store = Stoplight::DataStore::Memory.new
    busy = Server::Carriers::Trouble.new(:silent, "Too many", own: true)
    5.times { assert_raises(Server::Carriers::Trouble) { Server::Carriers::Lines.guarded(hanging) { raise busy } } }
    refute Server::Carriers::Lines.resting?(hanging), "waiting for a connection does not count on its breaker"
  end

  def test_connections_are_kept_apart_by_scheme_host_and_port
    origins = %w[http://a.example http://a.example:80/x https://a.example http://a.example:8080 http://A.example http://b.example/api].map { |address| Server::Records::Carrier.origin(address) }
    assert_equal [["http", "a.example", 80], ["https", "a.example", 443], ["http", "a.example", 8080], ["http", "b.example", 80]], origins.uniq
    plain = saying(body(OK))
    assert_equal :answered, reply(plain).status
    port = URI.parse(@last.origin).port
    sealed = Server::Records::Carrier.new(id: "s", name: "S", address: "https://127.0.0.1:#{port}", services: [])
    assert_equal :silent, reply(sealed, 1.0).status, "what is to be sealed is never spoken in the clear"
    refute(@last.asked.drop(1).any? { |text| text.include?("POST /quotes") })
  end

  def test_a_breaker_that_is_half_open_lets_one_call_through
    carrier = raw { |socket, _| socket.write(RawCarrier.response("", status: "503 Closed")) }
    3.times { reply(carrier) }
    assert Server::Carriers::Lines.resting?(carrier)
    assert_equal "It has failed several times and is left alone for a while", reply(carrier).said
    assert_equal 3, @last.asked.size
    light = Server::Carriers::Lines.breaker(carrier)
    old = Stoplight::Failure.new("e", "m", Time.now - Server::Carriers::Lines::COOL_OFF - 1)
    store = Stoplight.default_data_store
    store.clear_failures(light)
    3.times { store.record_failure(light, old) }
    assert_equal Stoplight::Color::YELLOW, light.color
    inside = 0
    most = 0
    lock = Mutex.new
    answers = Array.new(8) do
      Thread.new do
        Server::Carriers::Lines.guarded(carrier) do
          lock.synchronize { most = [most, inside += 1].max }
          sleep 0.3
          lock.synchronize { inside -= 1 }
          raise Server::Carriers::Trouble.new(:silent, "still closed")
        end
      rescue Stoplight::Error::RedLight
        :left_alone
      rescue Server::Carriers::Trouble
        :asked
      end
    end.map(&:value)
    assert_equal [1, 1, 7], [most, answers.count(:asked), answers.count(:left_alone)]
  end

  # A mistake of ours while carriers are asked: told as ours, logged with its place, no silence of theirs, never a 500.
  def test_a_fault_of_ours_is_told_as_ours
    Server::Log.to = log = StringIO.new
    client = Server::Carriers::Client.instance_method(:ask)
    Server::Carriers::Client.define_method(:ask) { |_| raise TypeError, "one of ours\xFF" }
    fresh(ServerSupport::WHOLE_DEMO)
    carriers
    rate = ServerSupport::WHOLE_DEMO["rates"].find { |one| one["live"] }
    to = { "uk" => "GB" }.fetch(rate["zone"], "GB")
    quotes = ServerSupport::WHOLE_DEMO["zones"].map { |zone| zone["areas"].first["country"] || to }.uniq.map { |country| api(:post, "/api/quote", CART.merge("destination" => { "country" => country, "postcode" => nil }.compact)) }
    assert_equal 200, status
    codes = quotes.flat_map { |quote| quote["methods"].flat_map { |method| method["reckoning"].map { |step| step["code"] } } }
    assert_includes codes, "live.fault"
    refute_includes codes, "live.silent"
    assert_includes log.string, "TypeError: one of ours"
    assert_includes api(:get, "/api/carriers/state")["calls"].map { |call| call["outcome"] }, "fault"
    refute Server::Carriers::Lines.resting?(Server::Records::Carrier.find("petrel"))
  ensure
    Server::Carriers::Client.define_method(:ask, client)
  end

  # Nonsense is not remembered, and what is remembered can always be told.
  def test_no_answer_poisons_the_next_quote
    answers = [body(OK.merge("currency" => "???")), body(OK)]
    carrier = raw { |socket, _| socket.write(RawCarrier.response(answers.size > 1 ? answers.shift : answers.first)) }
    port = -> { Server::Carriers::Port.new(2.0).answers([request])[request] }
    assert_equal(:unusable, port.call.services["LETTER"].status)
    assert_equal(:ok, port.call.services["LETTER"].status)
    assert_equal :ok, port.call.services["LETTER"].status
    assert_equal 2, @last.asked.size, "a good answer is kept for a moment"
    assert_equal carrier.address, @last.origin
  end

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
end
