# frozen_string_literal: true

module Server
  module Records
    class GoodsField
      # An amount of money, kept in minor units.
      class Amount < GoodsField
        def initialize(name, **more) = super(name, column: "#{name}_minor", **more)

        def columns(item, currency) = { column => item[name] && GateMile::Money.parse(item[name], currency).minor }
        def shown(row, currency) = row[column] && GateMile::Decimal.point(row[column], currency.exponent)
        def worded(value, fields) = value && GateMile::Money.new(value, fields.money).to_s

        private

        def value(typed, fields, _sure)
          return if typed.to_s.strip.empty?

          amount = GateMile::Money.parse(typed.to_s, fields.money)
          raise GoodsFields::Fault, :negative if amount.negative?

          amount.minor
        end
      end
    end
  end
end
