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
      fields = { **fields, "name" => name(read(fields).first) } if fields["name"].to_s.strip.empty?
      return fields if fields["expects"] && fields["recorded"]

      quote, recorded = asked(fields)
      expects = fields["expects"] || GateMile::ProofForms::EXPECTED.write(GateMile::Expected.of(quote))
      fields.merge("expects" => expects, "recorded" => GateMile::ProofForms::RecordedForm.write(recorded))
    end

    # @param cart [GateMile::Cart]
    # @return [String] what it is called where nobody says: its goods and where it goes, and a number where there is one
    #   of this name already
    def name(cart)
      lines = @book.basket(cart).lines
      first = lines.first&.then { |line| "#{line.quantity} × #{line.label}" } || "Nothing"
      to = [cart.destination.country, cart.destination.region, cart.destination.postcode].compact.join(" ")
      more = lines.size > 1 ? " and #{lines.size - 1} more" : ""
      unlike("#{first[0, 70]}#{more}#{", to #{to}" unless to.empty?}")
    end

    # Keeps many at once, as one change; carriers are not asked. Carts that are kept already are passed over.
    # @param list [Array<Hash>] fields of proofs
    # @return [Hash] how many were kept, and how many were there
    # @raise [Problem] 422
    def keep(list)
      known = Records::Proof.pluck(:cart, :at, :expects).to_set
      kept = list.map do |fields|
        without_asking(fields)
      end.reject { |one| known.include?(one.values_at("cart", "at", "expects")) }
      History.edit("create", "proof", { name: "", count: kept.size.to_s }) do
        kept.each { |one| Records::Proof.create!(one.merge("name" => unlike(one["name"]))) }
      end
      { count: kept.size, there: list.size - kept.size }
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

    def without_asking(fields)
      cart, moment = read(fields)
      quote = @book.quote(cart, at: moment.times(@now, @book.store.time_zone).first)
      expects = GateMile::ProofForms::EXPECTED.write(GateMile::Expected.of(quote))
      fields.merge("cart" => GateMile::CartForms::CART.write(cart), "expects" => expects, "at" => moment.at)
    end

    # The first of "name", "name (2)", "name (3)" that nobody has.
    def unlike(name)
      taken = Records::Proof.where("name LIKE ?", "#{Records::Proof.sanitize_sql_like(name)}%").pluck(:name).map(&:downcase)
      [name, *(2..(taken.size + 2)).map { |at| "#{name} (#{at})" }].find { |one| !taken.include?(one.downcase) }
    end

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
