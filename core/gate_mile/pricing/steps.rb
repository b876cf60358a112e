# frozen_string_literal: true

module GateMile
  # One step of {Steps}: an amount, perhaps an amount for each started increment above the step's start, perhaps a
  # percentage of the load's value; or not available.
  #
  # amount: {Money}, nil where it is not available; each, increment: {Money} and {Boundary}, or nil; percent:
  # {Percentage}.
  class Step < Value.of(:amount, :each, :increment, :percent)
    # @param reader [Reader]
    # @param currency [Currency]
    # @param gauge [Gauge, nil]
    # @return [Step]
    def self.read(reader, currency, gauge)
      none = reader.flag("none", default: false)
      fields = none ? {} : amounts(reader, currency, gauge)
      %w[amount each increment percent].each { |key| reader.given?(key, read: true) } if none
      new(**fields)
    end

    def self.amounts(reader, currency, gauge)
      each = reader.money("each", currency, required: false)
      increment = reader.parsed("increment", required: !each.nil?) do |text|
        next if gauge.nil?

        Boundary.parse(gauge, text).tap { |found| raise Malformed, :zero if found.base.zero? }
      end
      reader.problem("each", :missing) if increment && each.nil?
      { amount: reader.money("amount", currency), each: each, increment: increment,
        percent: reader.parsed("percent", required: false) { |text| TaxClass.rate(text) } }
    end
    private_class_method :amounts

    # @return [Boolean]
    def closed? = amount.nil?

    # @return [Boolean] whether a percentage has a part in its price
    def relative? = !percent.nil? && !percent.value.zero?

    # @return [Hash] for JSON
    def dump
      return { "none" => true } if closed?

      { "amount" => amount.to_s, "each" => each&.to_s, "increment" => increment&.text, "percent" => percent&.to_s }
        .compact
    end
  end

  # A schedule of steps over one measure.
  class Steps < Value.of(:scale, :steps)
    MOST = 5000

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Steps]
    def self.read(reader, currency)
      readers = reader.items("steps", most: MOST)
      reader.problem("steps", :missing) if readers.empty? && reader.given?("steps")
      scale = Scale.read(reader, currency, readers.map { |item| [item, "at"] })
      steps = readers.map { |item| Step.read(item, currency, scale&.gauge).tap { item.finish } }
      new(scale: scale, steps: steps)
    end

    # @return [Array<Gauge>]
    def gauges = [scale.gauge]

    # What its prices change along: its boundaries, and every started increment above them.
    Breaks = Struct.new(:scale, :steps) do
      def gauge = scale.gauge

      # @param upto [Numeric]
      # @return [Array<Numeric>] where the price can change, as far as that
      def breaks(upto)
        scale.boundaries.map(&:base) + steps.each_with_index.flat_map do |step, at|
          step.each ? increments(step, at, [scale.finish(at)&.base, upto].compact.min) : []
        end
      end

      def increments(step, at, last)
        start = scale.boundaries[at].base
        count = ((last - start) / step.increment.base).floor.clamp(0, PriceLines::MOST)
        Array.new(count) { |number| start + (step.increment.base * (number + 1)) }
      end
    end

    # @return [Array<#breaks>]
    def scales = [Breaks.new(scale, steps)]

    # @param load [Load]
    # @return [Priced, Refusal]
    def price(load, _place)
      number = load.by(scale.gauge) or return load.missing(scale.gauge)
      at = scale.find(number)
      step = steps[at]
      return Refusal.new(code: :beyond, numbers: told(number, at)) if step.closed?

      amount = amount(step, number, at, load)
      Priced.new(code: :"schedule.steps", amount: amount, chosen: amount.zero? && !step.relative?,
                 numbers: { **told(number, at), base: step.amount, **more(step, number, at, load) })
    end

    # @return [Hash] for JSON
    def dump
      { "kind" => "steps", **scale.dump,
        "steps" => scale.boundaries.zip(steps).map { |boundary, step| { "at" => boundary.text, **step.dump } } }
    end

    private

    def amount(step, number, at, load)
      step.amount.minor + (step.each ? step.each.minor * started(step, number, at) : 0) +
        (step.percent ? Rational(step.percent.value, 100) * load.value : 0)
    end

    def started(step, number, at)
      (Rational(number - scale.boundaries[at].base) / step.increment.base).ceil
    end

    def told(number, at)
      gauge = scale.gauge
      { measure: gauge.name, number: gauge.write(number, unit), start: scale.boundaries[at].text,
        finish: scale.finish(at)&.text, edges: scale.edges }
    end

    # Figures are told in the unit of the boundaries.
    def unit
      scale.boundaries.last.text[/[[:alpha:]]+[23]?\z/]
    end

    def more(step, number, at, load)
      { each: step.each, increment: step.increment&.text, started: (started(step, number, at) if step.each),
        percent: step.percent&.to_s, of: (Money.new(load.value, step.amount.currency) if step.percent) }.compact
    end
  end
end
