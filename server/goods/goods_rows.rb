# frozen_string_literal: true

module Server
  # Rows of the catalogue as the database holds them, for edits of many at once.
  module GoodsRows
    # Columns of what a variant always has from its product.
    OF_PRODUCTS = Records::GoodsField::OF_PRODUCTS.map(&:column).freeze
    # A class that a table names and the shop has not yet: made says whether it has it by now.
    Coming = Struct.new(:name, :id, :made)

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

      # @param fields [Records::GoodsFields]
      # @return [Hash] one change of a row, for people to read: field, from, to
      def shown(column, before, after, fields)
        field = Records::GoodsField.of_column(column)
        { field: field.name, from: worded(field, before, fields), to: worded(field, after, fields) }
      end

      private

      def worded(field, value, fields) = value.is_a?(Coming) ? value.name : field.worded(value, fields)
    end
  end
end
