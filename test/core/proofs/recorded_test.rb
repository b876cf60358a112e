# frozen_string_literal: true

require_relative "../../support/core"

# What carriers said once is kept, and heard again: the same question gets the same answer, another one gets none.
class RecordedTest < Minitest::Test
  include CoreSupport

  CART = { "lines" => [{ "sku" => "A", "quantity" => 2 }], "destination" => { "country" => "GB", "postcode" => "TR29 4ZZ" } }.freeze

  # A carrier for tests: asked, it says what it has for that carrier, or nothing at all.
  class Carrier
    attr_reader :asked

    def initialize(said)
      @said = said
      @asked = []
    end

    def answers(requests)
      @asked.concat(requests)
      requests.to_h { |request| [request, @said.fetch(request.carrier) { GateMile::Reply.failed(:silent, "No answer") }] }
    end
  end

  def live_book
    live = { "services" => [{ "carrier" => "ferry", "service" => "DAY" }] }
    book(store: STORE.merge("ship_from" => { "country" => "GB", "postcode" => "TR29 4AA" }),
         carriers: [{ "id" => "ferry", "name" => "Ferry", "services" => [{ "code" => "DAY", "name" => "Day" }] }],
         rates: [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "live" => live }])
  end

  def said
    price = GateMile::Money.new(612, GateMile::Currency["GBP"])
    GateMile::Reply.new(status: :answered, age: 2, services: { "DAY" => GateMile::ServiceAnswer.new(status: :ok, prices: [price]) })
  end

  def prices(quote) = quote.method_quotes.map { |one| one.price&.to_s }

  def test_the_same_question_gets_the_same_answer
    carrier = Carrier.new("ferry" => said)
    port = GateMile::Recorded.listening(carrier, AT)
    before = live_book.quote(cart(CART), at: AT, carriers: port)
    assert_equal ["6.12"], prices(before)
    recorded = port.recorded
    assert_equal([["ferry", AT, said]], recorded.answers.map { |one| [one.carrier, one.at, one.reply] })
    assert_equal AT, recorded.at
    heard = recorded.port
    assert_equal prices(before), prices(live_book.quote(cart(CART), at: AT, carriers: heard))
    assert_empty heard.missing
  end

  def test_another_question_has_no_answer
    port = GateMile::Recorded.listening(Carrier.new("ferry" => said), AT)
    live_book.quote(cart(CART), at: AT, carriers: port)
    heard = port.recorded.port
    heavier = CART.merge("lines" => [{ "sku" => "A", "quantity" => 40 }])
    quote = live_book.quote(cart(heavier), at: AT, carriers: heard)
    assert_equal [nil], prices(quote)
    assert_equal ["ferry"], heard.missing.map(&:carrier)
    # A quote of its own hears with ears of its own: nothing is missing for the next one.
    assert_empty port.recorded.port.missing
  end

  # Silence is not kept, so that a proof does not hold to a carrier that was down.
  def test_silence_is_not_kept
    port = GateMile::Recorded.listening(Carrier.new({}), AT)
    live_book.quote(cart(CART), at: AT, carriers: port)
    assert_empty port.recorded.answers
    assert_nil port.recorded.at
    refused = GateMile::Recorded.listening(Carrier.new("ferry" => GateMile::Reply.failed(:refused, "Not there")), AT)
    live_book.quote(cart(CART), at: AT, carriers: refused)
    assert_equal([:refused], refused.recorded.answers.map { |one| one.reply.status })
  end

  # By the oldest of its answers it is said from when it is.
  def test_from_when
    one, other = [AT, AT - 86_400].map do |at|
      GateMile::Recorded::Answer.new(carrier: "ferry", asked: { "n" => at.day },
                                     reply: GateMile::Reply.failed(:refused, "No"), at: at)
    end
    assert_equal AT - 86_400, GateMile::Recorded.new([one, other]).at
    assert_equal GateMile::Recorded.new([one, other]), GateMile::Recorded.new([one, other])
    refute_equal GateMile::Recorded.new([one]), GateMile::Recorded.new([other])
    assert_nil GateMile::Recorded::NONE.at
  end
end
