# frozen_string_literal: true

module Server
  # Rows of the catalogue as the database holds them, for edits of many at once.
  module GoodsRows
    # Columns of what a variant always has from its product.
    OF_PRODUCTS = %w[ships tags hazardous tax_class_id packing].freeze
    # Columns as the contract calls them.
    FIELDS = { "price_minor" => "price", "cost_minor" => "cost", "shipping_class_id" => "class",
               "tax_class_id" => "tax_class", "parent_id" => "variant_of" }.freeze

    class << self
      # @param relation [ActiveRecord::Relation]
      # @return [Array<Hash>]
      def of(relation)
        ActiveRecord::Base.connection.select_all(relation.select("products.*").to_sql).to_a
      end

      # @param columns [Hash] values as Ruby has them
      # @return [Hash] as the database holds them
      def raw(columns)
        columns.transform_values do |value|
          case value
          when true then 1
          when false then 0
          when Array then JSON.generate(value)
          else value
          end
        end
      end

      # @param row [Hash]
      # @return [Symbol, nil] what is wrong with the row as a whole
      def fault(row)
        return :missing_price if row["price_minor"].nil? && row["parent_id"].nil?

        :size_in_part if row.values_at(*GateMile::Sides::NAMES).compact.size.between?(1, 2)
      end

      # @return [Hash] one change of a row, for people to read: field, from, to
      def shown(column, before, after)
        { field: FIELDS.fetch(column, column), from: worded(column, before), to: worded(column, after) }
      end

      private

      def worded(column, value)
        return value&.name if value.nil? || value.is_a?(GoodsImport::ComingClass)

        case column
        when "price_minor", "cost_minor" then GateMile::Money.new(value, Records::Store.current.money).to_s
        when "shipping_class_id" then Records::ShippingClass.where(id: value).pick(:name)
        when "tax_class_id" then Records::TaxClass.where(id: value).pick(:name)
        when "tags" then JSON.parse(value).join("; ")
        when "ships", "hazardous" then value == 1 ? "yes" : "no"
        else value.to_s
        end
      end
    end
  end
end
