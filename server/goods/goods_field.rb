# frozen_string_literal: true

module Server
  # One field of a product: what the contract, documents and tables call it, the columns that hold it, and how each of
  # these is made of the others. {ALL} is the one list of them: whatever goes through all fields goes through it.
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

    # @param typed [Object] what the contract says of it, or text
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
    # @return [String, nil] for people to read
    def worded(value) = value&.to_s

    # A SKU or a name.
    class Text < GoodsField
      def initialize(name, most:, **more)
        super(name, **more)
        @most = most
      end

      def as_written? = true

      private

      def value(typed, _fields, _sure)
        text = typed.to_s.strip
        raise GoodsFields::Fault, :missing if text.empty?
        raise GoodsFields::Fault.new(:too_long, most: @most, length: text.length) if text.length > @most
        raise GoodsFields::Fault, :control_characters if text.match?(/[[:cntrl:]]/)

        text
      end
    end

    # An amount of money, kept in minor units.
    class Amount < GoodsField
      def initialize(name, **more) = super(name, column: "#{name}_minor", **more)

      def columns(item, currency) = { column => item[name] && GateMile::Money.parse(item[name], currency).minor }
      def shown(row, currency) = row[column] && GateMile::Decimal.point(row[column], currency.exponent)
      def worded(value) = value && GateMile::Money.new(value, Records::Store.current.money).to_s

      private

      def value(typed, fields, _sure)
        return if typed.to_s.strip.empty?

        amount = GateMile::Money.parse(typed.to_s, fields.money)
        raise GoodsFields::Fault, :negative if amount.negative?

        amount.minor
      end
    end

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

    # One of three sides, which a document has together.
    class Side < GoodsField
      def as_written? = true
      def columns(item, _currency) = { column => item.dig("size", name) }
      def document(_row, _currency) = nil
      def cell(item, _fields) = item.dig("size", name)

      private

      def value(typed, fields, _sure)
        GateMile::Length.parse(typed, unit: fields.length_unit).to_s unless typed.to_s.strip.empty?
      end
    end

    # The id of something that is kept in a register of its own, and goes by its name in tables.
    class Register < GoodsField
      # @param model [Class] of the register
      def initialize(name, model:, **more)
        super(name, **more)
        @model = model
      end

      # @return [Class]
      def model = Records.const_get(@model)

      def of_cell(cell, fields)
        return if cell.empty?

        fields.names(name)[GateMile::Product.fold(cell)] or raise GoodsFields::Fault.new(:no_class_named, name: cell)
      end

      def cell(item, fields) = fields.called(name, item[name])
      def worded(value) = value && model.where(id: value).pick(:name)

      private

      def value(id, fields, _sure)
        raise GoodsFields::Fault, :unknown_id unless id.nil? || fields.names(name).value?(id) || model.exists?(id: id)

        id
      end
    end

    # Words that goods are found by.
    class Tags < GoodsField
      def of_cell(cell, _fields) = cell.split(/[;,]/)
      def columns(item, _currency) = { column => JSON.generate(item.fetch(name, usual)) }
      def document(row, currency) = shown(row, currency).presence
      def shown(row, _currency) = row[column] == "[]" ? [] : JSON.parse(row[column])
      def cell(item, _fields) = item[name]&.join("; ")
      def worded(value) = value && JSON.parse(value).join("; ")

      private

      def value(typed, _fields, _sure)
        reader = GateMile::Reader.new({ "tags" => typed.map { |tag| tag.to_s.strip }.reject(&:empty?) })
        tags = GateMile::GoodsForms.tags(reader)
        problem = reader.problems.first
        problem ? raise(GoodsFields::Fault.new(problem.code, **problem.numbers)) : tags
      end
    end

    # Yes or no.
    class Flag < GoodsField
      ON = [1, true].freeze
      YES = %w[yes y true 1].freeze
      NO = %w[no n false 0].freeze
      private_constant :ON, :YES, :NO

      def of_cell(cell, _fields)
        return usual if cell.empty?
        return true if YES.include?(cell.downcase)
        return false if NO.include?(cell.downcase)

        raise GoodsFields::Fault, :yes_or_no
      end

      def columns(item, _currency) = { column => item.fetch(name, usual) ? 1 : 0 }
      # Only "ships" is written where it is as usual.
      def document(row, currency) = shown(row, currency).then { |on| on if on || usual }
      def shown(row, _currency) = ON.include?(row[column])
      def cell(item, _fields) = item.fetch(name, usual) ? "yes" : "no"
      def worded(value) = value && (ON.include?(value) ? "yes" : "no")

      private

      def value(typed, _fields, _sure)
        [true, false].include?(typed) ? typed : raise(GoodsFields::Fault, :not_true_or_false)
      end
    end

    # One of a few words, of which the first is the usual one.
    class Choice < GoodsField
      def initialize(name, among:, **more)
        super(name, usual: among.first, **more)
        @among = among
      end

      def columns(item, _currency) = { column => item.fetch(name, usual) }
      def document(row, _currency) = (row[column] unless row[column] == usual)
      def cell(item, _fields) = item.fetch(name, usual)

      private

      def value(typed, _fields, _sure)
        text = typed.to_s.strip.downcase
        text = usual if text.empty?
        return text if @among.include?(text)

        raise GoodsFields::Fault.new(:not_one_of, choices: @among.join(", "))
      end
    end

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
      Register.new("class", own: true, column: "shipping_class_id", model: :ShippingClass, others: %w[shipping_class]),
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
