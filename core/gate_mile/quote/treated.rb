# frozen_string_literal: true

module GateMile
  # What treated goods pay by themselves, and fees on top of ordinary ones: parts of a price.
  #
  # lines: those that a part is for; minor: minor units.
  class Treated < Value.of(:lines, :minor)
    NONE = [].freeze
    private_constant :NONE

    class << self
      # @param program [Program]
      # @param split [Split]
      # @param listener [Reckoning, nil]
      # @return [Array<Treated>]
      def of(program, split, listener)
        return NONE if split.apart.empty? && split.fees.empty?
        return parts(program, split, listener) if listener || split.method_prices?

        split.treated { parts(program, split, nil) }
      end

      # @param placed [Placed]
      # @return [Hash] where a reckoning leads to
      def setting(placed) = { kind: "treatment", id: placed.treatment.id, field: "price" }

      private

      def parts(program, split, listener)
        groups(split).map { |placed, lines| apart(program, placed, lines, listener) } +
          split.fees.map { |line, placed| fee(line, placed, listener) }
      end

      # Units that count together: all that one treatment prices of one product, or all that it prices.
      def groups(split)
        split.apart.group_by do |line, placed|
          [placed.treatment.id, (line.kin unless placed.treatment.price.together)]
        end.map { |_, found| [found.first.last, found.map(&:first)] }
      end

      def apart(program, placed, lines, listener)
        units = lines.sum(&:quantity)
        charge = placed.treatment.price.charge_for(program.rate.method_id)
        amount = charge.price(units)
        listener&.note(:treated, :"treated.apart", amount: amount, setting: setting(placed), units: units,
                                                   names: lines.map(&:label), treatment: placed.treatment.name,
                                                   counting: charge.counting, parts: told(charge, units))
        new(lines: lines, minor: amount.minor)
      end

      def told(charge, units) = charge.parts(units).map { |count, each| { units: count, each: each } }

      def fee(line, placed, listener)
        plus = placed.treatment.price.plus
        amount = plus * line.quantity
        listener&.note(:treated, :"treated.fee", amount: amount, setting: setting(placed), name: line.label,
                                                 units: line.quantity, each: plus, treatment: placed.treatment.name)
        new(lines: [line], minor: amount.minor)
      end
    end
  end
end
