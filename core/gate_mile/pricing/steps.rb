# frozen_string_literal: true

module GateMile
  # A schedule of steps over one measure.
  class Steps < Value.of(:scale, :steps)
    MOST = 5000

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
        count = ((last - start) / step.increment.base).floor.clamp(0, Steps::MOST)
        Array.new(count) { |number| start + (step.increment.base * (number + 1)) }
      end
    end

    # @return [Array<#breaks>]
    def scales = [Breaks.new(scale, steps)]

    # @param load [Load]
    # @return [Priced, Refusal]
    def price(load, _destination)
      number = load.by(scale.gauge) or return load.missing(scale.gauge)
      at = scale.find(number)
      step = steps[at]
      return Refusal.new(:beyond) { stretch(number, at) } if step.closed?

      Priced.new(self, load, amount(step, number, at, load), at)
    end

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [Steps]
    def map_amounts(pointer, &change)
      with(steps: steps.each_with_index.map { |step, at| step.map_amounts("#{pointer}/steps/#{at}", &change) })
    end

    # @return [Symbol]
    def code = :"schedule.steps"

    # @param priced [Priced]
    # @return [Boolean] whether a price of nothing was typed
    def chosen?(priced) = !steps[priced.at].relative?

    # @param priced [Priced]
    # @return [Hash]
    def figures(priced)
      number = priced.load.by(scale.gauge)
      step = steps[priced.at]
      { **stretch(number, priced.at), base: step.amount, **more(step, number, priced.at, priced.load) }
    end

    private

    def amount(step, number, at, load)
      amount = step.amount.minor
      amount += step.each.minor * started(step, number, at) if step.each
      step.percent ? amount + step.percent.exactly(load.value) : amount
    end

    def started(step, number, at) = Decimal.started(number - scale.boundaries[at].base, step.increment.base)

    def stretch(number, at)
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
