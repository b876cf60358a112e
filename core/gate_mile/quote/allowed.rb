# frozen_string_literal: true

module GateMile
  # The first step of a rate: may every line travel by it, and is it offered at all, here and now? causes: what speaks
  # against it; open: facts that may take it away, and are not known.
  class Allowed < Value.of(:causes, :open)
    NONE = [].freeze
    private_constant :NONE

    # @param program [Program]
    # @param visit [Visit]
    # @param listener [Reckoning, nil]
    # @return [Allowed]
    def self.of(program, visit, listener)
      lines = of_lines(program, visit.basket)
      return FREE if program.free? && lines.empty? && !visit.basket.shipping.empty?

      narrowed = program.narrowed(visit.destination)
      tell(program, narrowed, listener) if listener && narrowed
      causes = [program.standing_causes, nothing(visit), shut(program, visit), lines,
                unpriced(program), outside(program, narrowed)]
      new(causes: causes.flatten(1), open: narrowed&.code == :address_open ? [field(narrowed)] : NONE)
    end

    FREE = new(causes: NONE, open: NONE)
    private_constant :FREE

    class << self
      private

      def nothing(visit) = visit.basket.shipping.empty? ? [Cause.new(:nothing_to_ship)] : NONE

      # Is it open at the moment of the checkout?
      def shut(program, visit)
        delivery = program.shipping_method.delivery
        reason = delivery && visit.terms && delivery.shut(visit.now.minute) or return NONE
        [Cause.new(reason, program.setting_of_delivery) { { at: visit.now.time } }]
      end

      # Is every line known, and may it travel by the method?
      def of_lines(program, basket)
        return NONE if basket.unknown.empty? && basket.treatments.all? { |list| program.reach(list).barring.empty? }

        basket.shipping.lines.flat_map do |line|
          unknown = line.known ? NONE : [Cause.new(:unknown_product) { { sku: line.code } }]
          line.treatments.empty? ? unknown : unknown + barred(program, line)
        end
      end

      def barred(program, line)
        program.reach(line.treatments).barring.map do |placed|
          treatment = placed.treatment
          Cause.new(:line_barred, { kind: "treatment", id: treatment.id, field: "travel" }) do
            { name: line.label, sku: line.sku, level: placed.level, treatment: treatment.name }
          end
        end
      end

      def unpriced(program) = program.priced? ? NONE : [Cause.new(:no_price, program.setting_of_plan)]

      # A rate may hold in a part of its zone only. Where the cart does not go to the zone, it is priced as if it went
      # there; where too little of the address is known, it is priced, and told that this field may take it away.
      def outside(program, narrowed)
        return NONE if narrowed.nil? || %i[address_decides address_open].include?(narrowed.code)

        [Cause.of(narrowed, program.setting_of_areas)]
      end

      def tell(program, narrowed, listener)
        case narrowed.code
        when :address_decides then listener.note(:restrictions, :"rate.narrowed")
        when :address_open
          listener.note(:restrictions, :"rate.narrowed_perhaps", field: field(narrowed),
                                                                 setting: program.setting_of_areas)
        end
      end

      def field(narrowed) = narrowed.numbers[:field].to_sym
    end
  end
end
