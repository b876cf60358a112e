# frozen_string_literal: true

module Server
  module Records
    # One field of a product: what the contract, documents and tables call it, the columns that hold it, and how to
    # convert between these. {ALL} is the only list of fields; code that handles every field loops over it.
    class GoodsField
      # @return [String] in the contract, in documents and in tables
      attr_reader :name
      # @return [String] of the database
      attr_reader :column
      # @return [Array<String>] what others call it in a table, for a first guess
      attr_reader :others
      # @return [Object] what it is as long as nothing is said, as Ruby has it
      attr_reader :usual

      # @param name [String]
      # @param column [String]
      # @param own [Boolean] whether a variant may have its own
      # @param usual [Object]
      # @param others [Array<String>]
      def initialize(name, column: name, own: false, usual: nil, others: [])
        @name = name
        @column = column
        @own = own
        @usual = usual
        @others = others
      end

      # @return [Boolean] whether a variant may have its own; it has all others from its product
      def own? = @own

      # @return [Boolean] whether it is kept as it was written
      def as_written? = false

      # @param typed [Object] the value as the contract has it, or text
      # @param fields [GoodsFields] units, currency and registers of the shop
      # @param sure [Boolean] doubtful values are meant
      # @return [Hash] columns and their values, as Ruby has them
      # @raise [GoodsFields::Fault, GateMile::Malformed]
      def read(typed, fields, sure) = { column => value(typed, fields, sure) }

      # @param cell [String] of a table, trimmed
      # @param fields [GoodsFields]
      # @return [Object] as the contract has it
      def of_cell(cell, _fields) = cell

      # @param item [Hash] a product or variant of a book document, read by the core
      # @param currency [GateMile::Currency]
      # @return [Hash] columns as the database holds them
      def columns(item, _currency) = { column => item[name] }

      # @param row [Hash] as the database holds it
      # @param currency [GateMile::Currency]
      # @return [Object, nil] in a book document, nil where it is left out
      def document(row, currency) = shown(row, currency)

      # @param row [Hash] as the database holds it
      # @param currency [GateMile::Currency]
      # @return [Object] as the contract shows it
      def shown(row, _currency) = row[column]

      # @param item [Hash] of a book document
      # @return [String, nil] a cell of a table
      def cell(item, _fields) = item[name]

      # @param value [Object] of the database
      # @param fields [GoodsFields]
      # @return [String, nil] for people to read
      def worded(value, _fields) = value&.to_s

      # In the order of a table.
      ALL = [
        Text.new("sku", own: true, most: 60, others: %w[code item_number article_number product_code]),
        Text.new("name", own: true, most: GateMile::Reader::NAME_LENGTH, others: %w[title product product_name]),
        Amount.new("price", own: true, others: %w[unit_price regular_price price_gbp price_eur]),
        Amount.new("cost", own: true, others: %w[unit_cost cost_price purchase_price]),
        Weight.new("weight", own: true, others: %w[weight_kg weight_g weight_lb weight_oz unit_weight]),
        Side.new("length", own: true, others: %w[length_cm length_mm length_in depth]),
        Side.new("width", own: true, others: %w[width_cm width_mm width_in]),
        Side.new("height", own: true, others: %w[height_cm height_mm height_in]),
        Register.new("class", own: true, column: "shipping_class_id", model: :ShippingClass,
                              others: %w[shipping_class]),
        Tags.new("tags", usual: [].freeze, others: %w[tag labels]),
        Flag.new("hazardous", usual: false, others: %w[hazard dangerous_goods]),
        Flag.new("ships", usual: true, others: %w[needs_shipping]),
        Register.new("tax_class", column: "tax_class_id", model: :TaxClass, others: %w[tax vat_class]),
        Choice.new("packing", among: GateMile::Product::PACKING, others: %w[orientation])
      ].freeze
      # What a variant has from its product.
      OF_PRODUCTS = ALL.reject(&:own?).freeze
      # Columns that follow from others.
      DERIVED = [Weight::SORTED].freeze

      BY_NAME = ALL.to_h { |field| [field.name, field] }.freeze
      BY_COLUMN = ALL.to_h { |field| [field.column, field] }.freeze
      private_constant :BY_NAME, :BY_COLUMN

      class << self
        # @param name [String]
        # @return [GoodsField]
        # @raise [KeyError]
        def [](name) = BY_NAME.fetch(name)

        # @param column [String]
        # @return [GoodsField, nil]
        def of_column(column) = BY_COLUMN[column]
      end
    end
  end
end
