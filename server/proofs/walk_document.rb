# frozen_string_literal: true

module Server
  # A walk as the contract shows it: each cart that is proposed, with why, and what each method comes to for it.
  class WalkDocument
    # @param book [GateMile::Book]
    # @param asked [Hash] one of zone, rate and offer, by its id
    # @param answers [Hash{GateMile::CarrierRequest => GateMile::Reply}] what carriers have answered lately
    # @param now [Time]
    # @raise [Problem] 404
    def initialize(book, asked, answers: {}, now: Time.now)
      @book = book
      @kept = Kept.new(answers)
      @now = now
      @walk = walk(asked)
    end

    # @return [Hash] Walk of the contract
    def dump
      methods = @walk.rates.map(&:method_id).uniq
      { zones: @walk.zones.map(&:id), methods: @book.method_ids & methods, whole: @walk.whole?,
        carts: @walk.proposals.map { |one| row(one) } }
    end

    # Answers that are there. Where one is missing carriers are not asked at all: a carrier decides then.
    Kept = Struct.new(:known) do
      def answers(requests) = (known.slice(*requests) if requests.all? { |request| known.key?(request) })
    end
    private_constant :Kept

    private

    def walk(asked)
      kind, id = asked.first
      case kind
      when "zone" then GateMile::Walk.of_zone(@book, there(@book.zone(id)), now: @now)
      when "rate" then GateMile::Walk.of_rate(@book, there(@book.rates.find { |rate| rate.id == id }), now: @now)
      else GateMile::Walk.of_offer(@book, there(@book.offers.find { |offer| offer.id == id }), now: @now)
      end
    end

    def there(found) = found || raise(Problem.new(404, "It is not there any more. Somebody may have removed it."))

    def row(one)
      at = one.at ? GateMile::LocalMoment.utc(one.at, @book.store.time_zone) : @now
      cart = GateMile::Cart.parse(one.cart, @book.currency)
      quote = @book.quote(cart, at: at, carriers: one.port || @kept)
      { cart: one.cart, at: one.at, carriers: one.carriers, reasons: one.reasons.map do |reason|
        GateMile::Plain.of(reason)
      end,
        status: quote.status, zone: quote.landing&.zone&.id,
        gets: quote.method_quotes.to_h { |method| [method.method_id, got(method)] } }
    end

    # @return [String] a price, "live", or "none"
    def got(method)
      return method.price.to_s if method.available?

      method.causes.any? { |cause| cause.code == :live_waiting } ? "live" : "none"
    end
  end
end
