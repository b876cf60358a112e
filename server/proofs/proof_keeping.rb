# frozen_string_literal: true

module Server
  # Makes proofs of carts: with what they get now, and what carriers say now, as what they are to get.
  class ProofKeeping
    # @param book [GateMile::Book]
    # @param now [Time]
    def initialize(book, now: Time.now)
      @book = book
      @now = now
      @setting = GateMile::Setting.new(book.currency, book.store.time_zone)
    end

    # @param fields [Hash] of a proof; what it expects may be left out
    # @return [Hash] the same with everything that was left out
    # @raise [Problem] 422
    def filled(fields)
      return fields if fields["expects"] && fields["recorded"]

      quote, recorded = asked(fields)
      expects = fields["expects"] || GateMile::ProofForms::EXPECTED.write(GateMile::Expected.of(quote))
      fields.merge("expects" => expects, "recorded" => GateMile::ProofForms::RecordedForm.write(recorded))
    end

    # @param proof [GateMile::Proof]
    # @param outcome [GateMile::Proving::Outcome]
    # @return [Hash] what it is to get from now on
    def accepted(proof, outcome)
      quote = @book.quote(proof.cart, at: outcome.at, carriers: proof.recorded.port)
      GateMile::ProofForms::EXPECTED.write(proof.expected.accepting(quote))
    end

    # @param fields [Hash] with cart and moment
    # @return [Array(GateMile::Quote, GateMile::Recorded)]
    # @raise [Problem] 422
    def asked(fields)
      cart, moment = read(fields)
      at = moment.times(@now, @book.store.time_zone).first
      return [@book.quote(cart, at: at), GateMile::Recorded::NONE] if @book.rates.none?(&:live)

      port = GateMile::Recorded.listening(Carriers::Port.new, @now)
      [@book.quote(cart, at: at, carriers: port), port.recorded]
    end

    private

    def read(fields)
      reader = GateMile::Reader.open(fields.slice("cart", "at", "weekdays", "time"))
      cart = reader.object("cart")&.then { |item| GateMile::CartForms::CART.read(item, @setting) }
      moment = GateMile::ProofForms::MomentForm.read(reader, @setting)
      raise GateMile::Invalid, reader.problems if reader.problems.any?

      [cart, moment]
    rescue GateMile::Invalid => e
      raise Problem.of_invalid(e)
    end
  end
end
