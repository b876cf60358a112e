# frozen_string_literal: true

module GateMile
  # A quote in JSON (docs/formats/quote.schema.json).
  module QuoteDocument
    class << self
      # @param quote [Quote]
      # @param reckonings [Boolean, Array<String>] whether steps are among it: of all methods, of none, of these rates
      # @return [Hash]
      def write(quote, reckonings: true)
        { "status" => quote.status.name, "at" => quote.at.utc.strftime("%Y-%m-%dT%H:%M:%SZ"),
          "landing" => quote.landing && landing(quote.landing),
          "lines" => quote.lines.map { |line| line(line, quote.store.basis) }, "measures" => measures(quote.measures),
          "methods" => quote.method_quotes.map { |one| method_quote(one, reckonings: reckonings) },
          "text" => quote.text, "offers" => quote.outlooks.map { |one| outlook(one) },
          "rules" => quote.verdicts.map { |one| verdict(one) }, "refused" => Plain.of(quote.refused) }
      end

      # What a checkout wants: the methods to choose from, with their prices, and nothing worked out beside them.
      # @param quote [Quote]
      # @return [Hash]
      def prices(quote)
        available = quote.method_quotes.select(&:available?)
        { "status" => quote.status.name, "text" => quote.text,
          "methods" => available.map do |one|
            { "code" => one.code, "name" => one.name, "promise" => one.promise, "price" => one.price.to_s,
              "messages" => one.messages }
          end }
      end

      # @param quote [MethodQuote]
      # @param reckonings [Boolean, Array<String>]
      # @return [Hash]
      def method_quote(quote, reckonings: true)
        { "method" => quote.method_id, "rate" => quote.rate, "code" => quote.code, "name" => quote.name,
          "promise" => quote.promise, "status" => quote.status.name, **amounts(quote),
          "marks" => quote.marks.map(&:name), "causes" => quote.causes.map { |one| cause(one) },
          "offers" => quote.acted.map(&:id), "messages" => quote.messages,
          "provisional" => quote.provisional.map(&:name), "arrives" => quote.arrives&.map(&:iso8601),
          "days" => quote.days, "duty" => duty(quote.duty), "live" => quote.live,
          "reckoning" => steps(quote, reckonings) }
      end

      # Areas are long lists; what a quote shows of one is its place and the clause that decided.
      # @param landing [Landing]
      # @return [Hash]
      def landing(landing)
        area = landing.area
        told = landing.remarks
        { "status" => landing.status.name, "zone" => landing.zone&.id,
          "area" => area && { "kind" => area.kind.name, "country" => area.country }.compact,
          "clause" => landing.clause&.text,
          "candidates" => landing.candidates&.map { |candidate| candidate&.id }, "decides" => landing.decides,
          "country" => (landing.place.country if told.include?(:own_country)),
          "remarks" => (told.map(&:name) if told.any?) }.compact
      end

      # @param step [ReckoningStep]
      # @return [Hash]
      def step(step)
        { "step" => step.step.name, "code" => step.code.name, "numbers" => Plain.of(step.numbers),
          "amount" => step.amount&.to_s, "setting" => step.setting && Plain.of(step.setting) }
      end

      # @param cause [Cause]
      # @return [Hash]
      def cause(cause)
        { "code" => cause.code.name, "numbers" => Plain.of(cause.numbers),
          "setting" => cause.setting && Plain.of(cause.setting) }
      end

      private

      def steps(quote, reckonings)
        wanted = reckonings.is_a?(Array) ? reckonings.include?(quote.rate) : reckonings
        wanted ? quote.reckoning.map { |one| step(one) } : []
      end

      def amounts(quote)
        { "price" => quote.price&.to_s, "cost" => quote.cost&.to_s, "left" => quote.left&.to_s }
      end

      def line(line, basis)
        { "sku" => line.sku, "name" => line.name, "quantity" => line.quantity, "unit_price" => line.unit_price&.to_s,
          "value" => line.value(basis)&.to_s, "weight" => line.weight&.to_s, "longest" => line.longest&.to_s,
          "ships" => line.ships, "known" => line.known, "class" => line.shipping_class,
          "unknown" => line.goods.unknown }
      end

      def measures(measures)
        { "value" => measures.value.to_s, "weight" => measures.weight&.to_s, "quantity" => measures.quantity,
          "longest" => measures.longest&.to_s, "unweighed" => measures.unweighed, "unsized" => measures.unsized }
      end

      def duty(duty) = duty && { "amount" => duty.first.to_s, "included" => duty.last }

      def outlook(outlook)
        { "offer" => outlook.offer.id, "state" => outlook.state.name, "measure" => outlook.offer.threshold&.measure,
          "remaining" => outlook.remaining&.to_s, "threshold" => outlook.threshold&.to_s,
          "here" => outlook.here&.to_s, "methods" => outlook.method_ids,
          "reasons" => outlook.reasons.map { |reason| Plain.of(reason) }, "moment" => outlook.moment,
          "sure" => outlook.sure }
      end

      def verdict(verdict)
        { "rule" => verdict.rule.id, "held" => verdict.held?, "open" => verdict.open&.name,
          "missing" => verdict.missing.map do |condition, wanted, here|
            { "wanted" => wanted, "condition" => Documents.write(condition), "here" => here }
          end }
      end
    end
  end
end
