# frozen_string_literal: true

module Server
  # What the checkout door answers to carts.
  class CheckoutQuotes
    # Carts of one batch.
    BATCH = 50
    # Milliseconds that carriers may take, as a caller may set it.
    DEADLINES = (50..10_000)
    # What a shop's page may say of a line: prices come from the catalogue.
    PLAIN_LINE = %w[sku quantity].freeze
    # What it may say of a cart.
    PLAIN_CART = %w[lines destination coupons].freeze
    ASKED = %w[cart detail deadline_ms trial].freeze
    ASKED_TOGETHER = %w[carts products destination detail deadline_ms trial].freeze
    # How much is told: the methods with their prices, what is said beside them too, how each price came about too.
    DETAILS = %w[prices methods reckonings].freeze
    private_constant :DEADLINES, :PLAIN_LINE, :PLAIN_CART, :ASKED, :ASKED_TOGETHER

    # What a quote is made with. number, book: of the release; uses: by offer, how often it was used; settings:
    # {Records::DoorSetting#document}; now: {Time} in whole seconds; trial: whether a merchant only looks: then nobody
    # can order with it, and it is not counted.
    Ground = Struct.new(:number, :book, :uses, :settings, :now, :trial)

    # @param seal [QuoteSeal]
    # @param carriers [#call] makes a carriers' port for a number of seconds
    # @param telemetry [Telemetry]
    def initialize(seal, carriers: ->(seconds) { Carriers::Port.new(seconds) }, telemetry: Telemetry.new)
      @seal = seal
      @carriers = carriers
      @telemetry = telemetry
    end

    # @param body [Object] CheckoutQuoteRequest of the contract
    # @param key [KeyRing::Key]
    # @param ground [Ground]
    # @return [Hash] CheckoutQuote of the contract
    # @raise [Problem] 422
    def one(body, key, ground)
      known(body, ASKED)
      told(cart(body["cart"], key, ground.book, "/cart"), family(key, ground), ground, deadline(body), detail(body))
    end

    # @param body [Object] CheckoutBatchRequest of the contract
    # @param key [KeyRing::Key]
    # @param ground [Ground]
    # @return [Hash] CheckoutBatch of the contract: an answer, or what is wrong, for each cart in its order
    # @raise [Problem] 422
    def many(body, key, ground)
      known(body, ASKED_TOGETHER)
      said = [family(key, ground), ground, deadline(body), detail(body)]
      { quotes: carts(body).map { |at, cart| alone(at) { told(cart(cart, key, ground.book, at), *said) } } }
    end

    # The same cart by the release that counts now, for the same keys.
    # @param content [QuoteSeal::Content]
    # @param ground [Ground]
    # @return [Hash] CheckoutQuote of the contract
    # @raise [GateMile::Invalid] where the shop can't read this cart any more
    def again(content, ground)
      cart = GateMile::Cart.parse(content.cart.except("offer_uses"), ground.book.currency)
      told(cart, content.family, ground, Settings.deadline, "methods")
    end

    private

    # @return [String, nil] of the keys that may order it; nil for an estimate
    def family(key, ground) = key.public || ground.trial ? nil : key.family

    def told(cart, family, ground, seconds, detail)
      started = Database.now
      cart = cart.with(offer_uses: ground.uses)
      port = GateMile::Recorded.listening(@carriers.call(seconds), ground.now)
      quote = ground.book.quote(cart, at: ground.now, carriers: port)
      @telemetry.quoted(quote, cart, Database.now - started, ground.now, orders: !family.nil?) unless ground.trial
      holds = ground.now + (ground.settings[:holds_minutes] * 60)
      id = family && @seal.seal(content(family, ground, holds, cart, quote, port))
      { quote: id, release: ground.number, at: moment(ground.now), holds_until: moment(holds),
        **CheckoutAnswer.of(quote, ground.book, tax_class: ground.settings[:tax_class], detail: detail) }
    end

    # As RFC 3339 has it; both are in UTC.
    def moment(time) = time.strftime("%FT%TZ")

    def content(family, ground, holds, cart, quote, port)
      short = cart.with(destination: cart.destination.shortened, billing: cart.billing.shortened)
      recorded = port.recorded.shortened
      written = GateMile::ProofForms::RecordedForm.write(recorded) unless recorded.answers.empty?
      QuoteSeal::Content.new(family, ground.number, ground.now, holds, short.dump, written,
                             quote.method_quotes.select(&:available?).to_h { |one| [one.code, one.price.to_s] })
    end

    def known(body, fields)
      raise Problem.at("", :not_an_object) unless body.is_a?(Hash)

      foreign = body.keys - fields
      raise Problem.at(GateMile::Reader.part(foreign.first), :unknown_field) if foreign.any?
    end

    def detail(body)
      found = body.fetch("detail", "methods")
      DETAILS.include?(found) ? found : raise(Problem.at("/detail", :not_one_of, choices: DETAILS.join(", ")))
    end

    def deadline(body)
      found = body["deadline_ms"] or return Settings.deadline
      return found / 1000.0 if found.is_a?(Integer) && DEADLINES.cover?(found)

      raise Problem.at("/deadline_ms", :out_of_range, least: DEADLINES.min, most: DEADLINES.max)
    end

    def cart(document, key, book, at)
      raise Problem.at(at, document.nil? ? :missing : :not_an_object) unless document.is_a?(Hash)

      raise Problem.at("#{at}/offer_uses", :unknown_field) if document.key?("offer_uses")

      plain(document, at) if key.public
      GateMile::Cart.parse(document, book.currency)
    rescue GateMile::Invalid => e
      raise Problem.of_invalid(e, under: at)
    end

    # A page of a shop is in its shopper's hands: it names goods and coupons, and the catalogue says the rest.
    def plain(document, at)
      foreign = document.keys - PLAIN_CART
      raise Problem.at(at + GateMile::Reader.part(foreign.first), :not_with_a_public_key) if foreign.any?

      Array(document["lines"]).each_with_index do |line, index|
        foreign = line.is_a?(Hash) ? line.keys - PLAIN_LINE : []
        next if foreign.empty?

        raise Problem.at("#{at}/lines/#{index}#{GateMile::Reader.part(foreign.first)}", :not_with_a_public_key)
      end
    end

    # @return [Array<Array(String, Hash)>] pointers and carts
    def carts(body)
      field = %w[carts products].find { |name| body.key?(name) } or raise Problem.at("/carts", :missing)
      list = body[field]
      raise Problem.at("/#{field}", :not_a_list) unless list.is_a?(Array)
      raise Problem.at("/#{field}", :too_many, most: BATCH) if list.size > BATCH
      return list.each_with_index.map { |cart, at| ["/carts/#{at}", cart] } if field == "carts"

      list.each_with_index.map do |sku, at|
        line = { "sku" => sku, "quantity" => 1 }
        ["/products/#{at}", { "lines" => [line], "destination" => body["destination"] }.compact]
      end
    end

    # One that is wrong does not cost the others their answer.
    def alone(pointer)
      yield
    rescue Problem => e
      { problem: { **e.body, pointer: pointer } }
    end
  end
end
