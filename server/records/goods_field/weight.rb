# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # A weight, kept as it was written, and in nanograms to be sorted by.
      class Weight < GoodsField
        SORTED = "weight_ng"

        def as_written? = true

        def read(typed, fields, sure)
          return { column => nil, SORTED => nil } if typed.to_s.strip.empty?

          weight = GateMile::Weight.parse(typed, unit: fields.weight_unit)
          doubt(weight) unless sure
          { column => weight.to_s, SORTED => weight.nanograms }
        end

        def columns(item, _currency)
          { column => item[name], SORTED => item[name] && GateMile::Weight.parse(item[name]).nanograms }
        end

        private

        def doubt(weight)
          return unless GateMile::Doubt.of(weight)

          raise GoodsFields::Fault.new(:doubtful_weight, weight: weight, suggestion: GateMile::Doubt.meant(weight)&.to_s)
        end
      end
    end
  end
end
