# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/raw_carrier"
require "standardwebhooks"

# What others are told of: signed as the Standard Webhooks specification says (its own library receives it here), tried
# again by the waits that it recommends, seen and sent once more.
class WebhooksTest < Minitest::Test
  include CheckoutSupport

  EVERYTHING = Server::Records::Webhook::EVENTS

  def setup
    fresh(WHOLE_DEMO)
    @answers = []
    @shop = RawCarrier.new { |socket, _| socket.write(RawCarrier.response("", status: @answers.shift || "204 No Content")) }
    @duties = Server::Duties.new(releases: releases, suite: Server::App.settings.suite)
    @duties.round
  end

  def teardown = @shop.stop

  def hook(events = EVERYTHING, url: "#{@shop.origin}/hooks")
    api(:post, "/api/webhooks", { url: url, events: events })
  end

  def round(now = Time.now) = @duties.round(now)
  def deliveries = api(:get, "/api/webhooks")["deliveries"]

  # @return [Array(Hash, String)] headers and body of a request as it came
  def received(request)
    head, body = request.split("\r\n\r\n", 2)
    [head.lines.drop(1).to_h { |line| line.strip.split(": ", 2) }.transform_keys(&:downcase), body]
  end

  def kinds = @shop.asked.map { |request| JSON.parse(received(request).last)["type"] }

  # What comes is what the specification's own library takes, and nothing that was changed or is old.
  def test_a_receiver_of_the_specification
    made = hook
    publish
    round
    headers, body = received(@shop.asked.first)
    receiver = StandardWebhooks::Webhook.new(made["secret"])
    told = receiver.verify(body, headers)
    assert_equal ["release.published", 1], [told[:type], told.dig(:data, :release)]
    assert_raises(StandardWebhooks::WebhookVerificationError) { receiver.verify(body.sub("1", "2"), headers) }
    assert_raises(StandardWebhooks::WebhookVerificationError) { StandardWebhooks::Webhook.new(hook["secret"]).verify(body, headers) }
    old = Server::WebhookSignature.headers(made["secret"], "msg_1", Time.now - 3600, body)
    assert_raises(StandardWebhooks::WebhookVerificationError) { receiver.verify(body, old) }
    assert_equal([["delivered", 204, 1]], deliveries.map { |one| one.values_at("state", "status", "attempts") })
    refute_includes ActiveRecord::Base.connection.select_values("SELECT secret FROM webhooks").join, made["secret"].delete_prefix("whsec_")
  end

  # The waits of the specification, then no more; the message stays the same to the byte.
  def test_tried_again
    hook
    @answers = ["500 Oops"] * 20
    publish
    now = Time.now
    Server::Deliveries::WAITS.each_with_index do |wait, at|
      round(now)
      assert_equal ["waiting", 500, at + 1], deliveries.first.values_at("state", "status", "attempts")
      round(now + wait - 2)
      assert_equal at + 1, @shop.asked.size, "not before its time"
      now += wait + 1
    end
    round(now)
    assert_equal ["failed", "refused", 10], deliveries.first.values_at("state", "trouble", "attempts")
    assert_equal 10, @shop.asked.size
    assert_equal 1, @shop.asked.map { |request| received(request).last }.uniq.size
    assert_equal 1, @shop.asked.map { |request| received(request).first["webhook-id"] }.uniq.size
    @answers = []
    api(:post, "/api/deliveries/#{deliveries.first["id"]}/resend")
    round(now + 1)
    assert_equal ["delivered", 204], deliveries.first.values_at("state", "status")
    api(:post, "/api/deliveries/none/resend")
    assert_equal 404, status
  end

  def test_who_does_not_answer_or_is_gone
    made = hook(url: "http://127.0.0.1:9/hooks")
    publish
    round
    assert_equal ["waiting", nil, "not reached"], deliveries.first.values_at("state", "status", "trouble")
    api(:delete, "/api/webhooks/#{made.dig("made", "id")}")
    assert_empty deliveries
    made = hook(%w[release.published])
    @answers = ["410 Gone"]
    reprice("uk-tracked", "6.25")
    publish(overrule: "Dearer")
    round
    assert_equal "failed", deliveries.first["state"]
    refute_nil api(:get, "/api/webhooks")["webhooks"].first["gone_at"]
    api(:post, "/api/releases/1/return", {})
    round
    assert_equal 1, @shop.asked.size, "who is gone is told no more"
    edit_beside("/api/webhooks/#{made.dig("made", "id")}", { active: true })
    api(:post, "/api/webhooks/#{made.dig("made", "id")}/test")
    round
    assert_equal %w[release.published test], kinds
  end

  def test_only_what_was_asked_for
    hook(%w[offer.used_up])
    publish
    round
    assert_empty @shop.asked
    [{ url: "ftp://shop", events: EVERYTHING }, { url: "https://", events: EVERYTHING }, { url: @shop.origin, events: [] },
     { url: @shop.origin, events: %w[everything] }, { url: "https://a b", events: EVERYTHING }, { url: "https://s/#{"x" * 500}", events: EVERYTHING }]
      .each do |wrong|
      api(:post, "/api/webhooks", wrong)
      assert_equal 422, status, wrong.inspect
    end
  end

  # A release that was planned is told when it goes live, and once.
  def test_a_planned_release
    publish
    round
    hook(%w[release.published])
    reprice("uk-tracked", "6.25")
    at = GateMile::LocalMoment.local(Time.now + 7200, "Europe/London").strftime("%Y-%m-%dT%H:%M")
    publish(at: at, overrule: "Dearer")
    round
    assert_empty kinds
    2.times { round(Time.now + 7300) }
    assert_equal %w[release.published], kinds
    assert_equal 2, releases.number, "what has begun to count stays so"
  end

  def test_proofs_that_begin_to_fail
    hook(%w[proof.failing])
    round
    assert_empty kinds, "nothing has changed"
    reprice("uk-tracked", "6.95")
    2.times { round }
    told = JSON.parse(received(@shop.asked.first).last)
    assert_equal %w[proof.failing], kinds
    assert_includes told.dig("data", "proofs"), "Just short of free delivery"
    reprice("uk-tracked", "7.05")
    round
    assert_equal %w[proof.failing], kinds, "what fails already is not told again"
  end

  def test_an_offer_that_is_used_up
    hook(%w[offer.used_up])
    api(:patch, "/api/offers/slack", { first: 2, lock_version: 0 })
    publish(overrule: "Two only")
    @key = key_for
    %w[1 2 3].each do |number|
      quote = quoted(cart(coupons: ["SLACKWATER"]))["quote"]
      2.times { ask(:post, "orders", { order: number, quote: quote, method: "NEXT-DAY" }) }
    end
    round
    assert_equal %w[offer.used_up], kinds
  end

  # Ten in ten minutes, told once an hour.
  def test_nothing_offered_too_often
    hook(%w[nothing.offered])
    publish
    @key = key_for
    9.times { quoted(cart(goods, { "country" => "JP" })) }
    round
    assert_empty kinds
    3.times { quoted(cart(goods, { "country" => "JP" })) }
    round
    assert_equal %w[nothing.offered], kinds
    far = Server::Emptiness.new
    12.times { |at| far.note(Time.now + (at * 120)) }
    round
    assert_equal %w[nothing.offered], kinds, "seldom is not often"
    now = Time.now - 700
    { 601 => 1, 600 => 2 }.each do |seconds, told|
      slow = Server::Emptiness.new
      9.times { slow.note(now) }
      slow.note(now + seconds)
      round
      assert_equal told, kinds.size, "ten times in #{seconds} seconds"
    end
  end

  def test_a_carrier_that_is_down
    hook(%w[carrier.down])
    carrier = Server::Records::Carrier.first
    light = Struct.new(:name).new("carrier #{carrier.id} http://127.0.0.1:9")
    down = Server::CarrierDown.new
    down.notify(light, Stoplight::Color::GREEN, Stoplight::Color::RED, nil)
    down.notify(light, Stoplight::Color::YELLOW, Stoplight::Color::RED, nil)
    down.notify(light, Stoplight::Color::RED, Stoplight::Color::GREEN, nil)
    down.notify(Struct.new(:name).new("carrier gone x"), Stoplight::Color::GREEN, Stoplight::Color::RED, nil)
    round
    assert_equal %w[carrier.down], kinds
    assert_equal carrier.name, JSON.parse(received(@shop.asked.first).last).dig("data", "carrier")
  end

  # What quote servers notice counts together with what the workbench notices itself.
  def test_what_quote_servers_notice
    hook(%w[nothing.offered carrier.down])
    publish
    @key = key_for
    own = key_for("Quote servers", calls: %w[state])
    carrier = Server::Records::Carrier.first
    told = ->(count, down = []) { ask(:post, "notices", { nothing_offered: count, carriers_down: down }, key: own) }
    told.call(8)
    quoted(cart(goods, { "country" => "JP" }))
    round
    assert_empty kinds
    told.call(1_000_000, [carrier.id, "gone"])
    told.call(0, [carrier.id])
    assert_equal 204, status
    round
    assert_equal %w[carrier.down nothing.offered], kinds.sort
    ask(:post, "notices", { nothing_offered: 1, carriers_down: [] })
    assert_equal 403, status, "with a shop's key"
    assert_equal ["/carriers_down", "/nothing_offered"], pointers(ask(:post, "notices", { nothing_offered: -1, carriers_down: nil }, key: own)).sort
  end

  # One receiver that hangs keeps neither another one waiting nor the other duties.
  def test_a_receiver_that_hangs
    hanging = RawCarrier.new { |_, _| sleep 3 }
    hook(%w[release.published], url: "#{hanging.origin}/hooks")
    hook(%w[release.published])
    publish
    deliveries = Server::Deliveries.new
    threads = deliveries.start
    assert_equal 2, threads.size
    50.times { @shop.asked.any? ? break : sleep(0.02) }
    assert_equal [%w[release.published], true], [kinds, threads.any?(&:alive?)]
    before = Server::Database.now
    assert_empty deliveries.start(Time.now + 400), "nobody is sent the same twice at once"
    @duties.send(:attend, :tidy, Time.now)
    assert_operator Server::Database.now - before, :<, 1
    threads.each(&:join)
    assert_equal(%w[delivered waiting], self.deliveries.map { |one| one["state"] }.sort)
  ensure
    hanging.stop
  end

  # What came of a message can't be written for a while: it is not sent a second time.
  def test_an_outcome_that_can_not_be_written
    hook
    publish
    deliveries = Server::Deliveries.new
    busy = 3
    real = Server::Database.method(:write).unbind.bind(Server::Database)
    Server::Database.stub(:write, ->(&block) { (busy -= 1) >= 0 ? raise(ActiveRecord::LockWaitTimeout, "busy") : real.call(&block) }) do
      threads = deliveries.start
      50.times { @shop.asked.any? ? break : sleep(0.02) }
      quietly { 2.times { deliveries.start(Time.now + 400) rescue nil } } # rubocop:disable Style/RescueModifier
      threads.each(&:join)
    end
    deliveries.round(Time.now + 400)
    assert_equal [1, %w[delivered]], [@shop.asked.size, self.deliveries.map { |one| one["state"] }]
  end

  # Somebody else writes for long: carts are quoted at once, and nothing that was counted or is to be told is lost.
  def test_quotes_wait_for_nobody_who_is_told
    hook(%w[nothing.offered proof.failing carrier.down])
    publish
    @key = key_for
    round
    reprice("uk-tracked", "7.77")
    duties = Server::Duties.new(releases: releases, suite: Server::App.settings.suite, asked: checkout.asked, keys: checkout.keys)
    duties.instance_variable_set(:@failing, [])
    patient(20) do
      other = SQLite3::Database.new(ENV.fetch("GATE_MILE_DATABASE"))
      other.execute("BEGIN IMMEDIATE")
      started = Server::Database.now
      12.times { assert_equal [200, "not_served"], [(told = quoted(cart(goods, { "country" => "JP" }))) && status, told["status"]] }
      assert_operator Server::Database.now - started, :<, 5
      Server::CarrierDown.tell(Server::Records::Carrier.first.id)
      5.times { |at| duties.round(Time.now + (at * 10)) }
      other.execute("ROLLBACK")
      other.close
    end
    2.times { |at| duties.round(Time.now + 60 + (at * 10)) }
    assert_equal %w[carrier.down nothing.offered proof.failing], kinds.sort
    assert_equal 12, Server::Records::QuoteHour.where(outcome: "not_served").sum(:times)
    refute_nil Server::Records::CheckoutKey.find_by(name: "Shop").used_at
  end

  # Carts of orders are kept for as long as the merchant says, what was paid for good; one duty that fails leaves the others.
  def test_what_is_kept_for_too_long
    publish
    @key = key_for
    ask(:post, "orders", { order: "1", quote: quoted["quote"], method: "TRACKED" })
    later = Time.now + (731 * 86_400)
    Server::Duties.new(releases: releases, suite: nil).then { |duties| quietly { duties.round(later) } }
    told = api(:get, "/api/orders/1")
    assert_equal [nil, nil, false, "5.95"], [told["cart"], told["quote"], told["order"]["evidence"], told["order"]["price"]]
    refute_includes ActiveRecord::Base.connection.select_all("SELECT * FROM orders").to_a.to_s, "TR29"
  end
end
