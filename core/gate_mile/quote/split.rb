# frozen_string_literal: true

module GateMile
  # Which lines take part in the ordinary calculation of a rate, and which are treated. Rates that part the lines of a
  # cart alike share one.
  class Split
    NONE = [].freeze
    private_constant :NONE

    # @return [Lot] the lines that the plan prices
    attr_reader :ordinary
    # @return [Array<Array(Line, Placed)>] lines priced by themselves
    attr_reader :apart
    # @return [Array<Array(Line, Placed)>] ordinary lines that pay something on top
    attr_reader :fees

    # @param ordinary [Lot]
    # @param apart [Array<Array(Line, Placed)>]
    # @param fees [Array<Array(Line, Placed)>]
    def initialize(ordinary, apart, fees)
      @ordinary = ordinary
      @apart = apart
      @fees = fees
      @method_prices = apart.any? { |_, placed| placed.treatment.price.by_method.any? }
    end

    # @return [Boolean] whether something in it is priced by the method
    def method_prices? = @method_prices

    # @yieldreturn [Array<Treated>] of all rates that share it: asked for once
    # @return [Array<Treated>]
    def treated = @treated ||= yield

    class << self
      # @param program [Program]
      # @param basket [Basket]
      # @param listener [Reckoning, nil]
      # @return [Split]
      def of(program, basket, listener = nil)
        split = basket.shipping.keep(way(program, basket)) { parted(pairs(program, basket), basket) }
        tell(split, pairs(program, basket), basket, listener) if listener
        split
      end

      private

      # A number for each way of parting the lines: which treatment of each list counts.
      def way(program, basket)
        basket.treatments.inject(0) do |number, list|
          counts = program.reach(list).pricing
          (number * (list.size + 1)) + (counts ? counts + 1 : 0)
        end
      end

      # Lines that are treated here, each with the treatment whose price counts.
      def pairs(program, basket)
        basket.treated.filter_map do |line|
          counts = program.reach(line.treatments).pricing
          [line, line.treatments[counts]] if counts
        end
      end

      def parted(pairs, basket)
        return new(basket.shipping, NONE, NONE) if pairs.empty?

        apart, along = pairs.partition { |_, placed| placed.treatment.price.apart? }
        new(basket.without(apart.map(&:first)), apart, along.select { |_, placed| placed.treatment.price.plus })
      end

      def tell(split, treated, basket, listener)
        staying = basket.staying
        listener.note(:lines, :"lines.need_no_shipping", names: staying.map(&:label)) if staying.any?
        treated.each { |line, placed| tell_treated(line, placed, listener) }
        return listener.note(:lines, :"lines.none_ordinary") if split.ordinary.empty?

        found = split.ordinary.keep(:measures) { Measures.of(split.ordinary, split.ordinary, basket.store) }
        listener.note(:lines, :"lines.ordinary", lines: found.lines, quantity: found.quantity, value: found.value,
                                                 weight: found.weight, apart: split.apart.size)
      end

      def tell_treated(line, placed, listener)
        code = placed.treatment.price.apart? ? :"lines.apart" : :"lines.along"
        listener.note(:lines, code, setting: Treated.setting(placed), name: line.label, level: placed.level,
                                    treatment: placed.treatment.name, units: line.quantity)
      end
    end
  end
end
