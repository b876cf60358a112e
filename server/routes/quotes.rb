# frozen_string_literal: true

module Server
  module Routes
    # What carts get.
    module Quotes
      def self.registered(app)
        app.post "/api/bench" do
          body = body_of("BenchRequest")
          revision, book = settings.shelf.current
          book = settings.releases.book(body["release"]) if body["release"]
          cart = bench_cart(body["cart"], book, under: "/cart")
          shown = Quotes.preview(book, body["preview"])
          at = Moments.of(body["at"], book.store.time_zone)
          port = Carriers::Port.new if body["live"]
          answer(Quotes.bench(revision, shown, settings.shelf.at(body["compare_to"]), cart, at, port,
                              body.fetch("reckonings", true)))
        end

        app.post "/api/lines" do
          body = body_of("PriceLinesRequest")
          _, book = settings.shelf.current
          cart = bench_cart(body["cart"], book, under: "/cart")
          answer({ lines: Quotes.lines(Quotes.preview(book, body["preview"]), cart, body, Effort.new(env)) })
        end

        app.post "/api/gates" do
          _, book = settings.shelf.current
          at = Moments.of(params["at"], book.store.time_zone)
          gates = GateMile::NextGates.new(book, bench_cart(body_of, book), stop: Effort.new(env), at: at)
          answer({ gates: gates.list.map { |gate| gate.to_h.merge(price: gate.price&.to_s) }, whole: gates.whole? })
        end

        return unless Settings.echo?

        app.post("/api/echo") { answer(body_of) }
      end

      # @return [Hash] pieces by rate id, of the contract
      def self.lines(book, cart, body, effort)
        gauge = GateMile::Gauge.new(body["measure"], book.currency)
        most = gauge.parse(body["most"])
        raise GateMile::Malformed, :zero unless most.positive?

        asked = body["rates"]
        rates = asked ? book.rates.select { |rate| asked.include?(rate.id) } : book.rates
        at = Moments.of(body["at"], book.store.time_zone)
        port = Carriers::Port.new if body["live"]
        drawn = GateMile::PriceLines.new(book, cart, body["measure"], most, at: at, line: body.fetch("line", 0),
                                                                            carriers: port, stop: effort)
        found = drawn.of(rates)
        found.transform_values { |pieces| pieces.map { |piece| piece(piece, gauge, book.store.weight_unit) } }
      rescue GateMile::Malformed => e
        raise Problem.at("/most", e.code, **e.numbers)
      end

      def self.piece(piece, gauge, unit)
        { from: gauge.write(piece.from, unit), to: gauge.write(piece.to, unit), from_in: piece.from_in,
          to_in: piece.to_in, price: piece.price&.to_s, last: piece.last&.to_s, status: piece.status,
          causes: piece.causes, sampled: piece.sampled || false }
      end

      # @param shown [GateMile::Book] the setup, or a preview of it
      # @param earlier [GateMile::Book, nil] to compare with
      # @param reckonings [Boolean, Array<String>] whose: of all rates, or of those with these ids
      # @return [Hash] the Bench of the contract
      def self.bench(revision, shown, earlier, cart, at, port, reckonings)
        quote = shown.quote(cart, at: at, carriers: port)
        { revision: revision, quote: quote.dump(reckonings: reckonings),
          board: shown.board(cart, at: at, carriers: port, quote: quote).map do |zone, methods|
            { zone: zone, methods: methods.map { |one| one.dump(reckonings: reckonings) } }
          end,
          before: earlier && before(earlier, cart, at, port) }
      end

      # @return [GateMile::Book] with what is being typed in the place of what is stored
      # @raise [Problem] 422
      def self.preview(book, preview)
        return book if preview.nil?
        return treatment(book, preview["treatment"]) if preview.key?("treatment")
        return Previews.policy(book, preview) unless preview.key?("rate")

        rate = book.rates.find { |candidate| candidate.id == preview["rate"] } or
          raise Problem.new(404, "The rate is not there any more.")
        plan = preview["plan"] && GateMile::PlanOrder.parse(preview["plan"], book.currency)
        live = preview.key?("live") ? Previews.live(preview["live"], plan, book) : rate.live
        book.with_rate(rate.with(plan: plan, live: live))
      rescue GateMile::Invalid => e
        raise Problem.of_invalid(e, under: "/preview/plan")
      end

      def self.treatment(book, fields)
        reader = GateMile::Reader.new(fields)
        treatment = GateMile::Documents.read(GateMile::Treatment, reader, book.currency)
        problems = reader.problems
        raise Problem.of_invalid(GateMile::Invalid.new(problems), under: "/preview/treatment") if problems.any?

        book.with_treatment(treatment)
      end

      def self.before(book, cart, at, port)
        { zone: book.quote(cart, at: at).landing&.zone&.id,
          rates: book.board(cart, at: at, carriers: port).values.flatten.to_h do |method|
            [method.rate, method.price&.to_s]
          end }
      end
      private_class_method :piece, :treatment, :before
    end
  end
end
