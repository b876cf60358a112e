# frozen_string_literal: true

module Server
  # Reads fields of a product as they are typed, pasted or imported, and says what they are as columns of its row.
  class GoodsFields
    SIDES = GateMile::Sides::NAMES
    # What a variant may say itself; the rest it has from its product.
    OWN = %w[sku name price cost weight length width height class].freeze
    FIELDS = (OWN + %w[ships tags hazardous tax_class packing]).freeze
    # field => the register its ids come from, and the column that holds one
    REGISTERS = { "class" => [Records::ShippingClass, "shipping_class_id"],
                  "tax_class" => [Records::TaxClass, "tax_class_id"] }.freeze
    YES = %w[yes y true 1].freeze
    NO = %w[no n false 0].freeze
    private_constant :REGISTERS, :YES, :NO

    # A value that can't be taken: a sentence, and perhaps what was meant instead.
    class Fault < StandardError
      # @return [String] of {Words}
      attr_reader :code
      # @return [String, nil]
      attr_reader :suggestion

      def initialize(code, suggestion: nil, **numbers)
        @code = code.to_s
        @suggestion = suggestion
        super(Words.of(code, **numbers))
      end
    end

    # @param store [Records::Store]
    def initialize(store = Records::Store.current)
      @money = store.money
      @weight_unit = store.weight_unit
      @length_unit = store.length_unit
    end

    # @param field [String] one of FIELDS
    # @param typed [Object] text, or what the contract says of the field
    # @param sure [Boolean] doubtful values are meant
    # @return [Hash] columns and their values
    # @raise [Fault]
    def read(field, typed, sure: false)
      case field
      when "sku", "name" then { field => text(typed, field == "sku" ? 60 : GateMile::Reader::NAME_LENGTH) }
      when "price", "cost" then { "#{field}_minor" => price(typed) }
      when "weight" then weight(typed, sure)
      when *SIDES then { field => length(typed) }
      when *REGISTERS.keys then register(field, typed)
      when "tags" then { "tags" => tags(typed) }
      when "packing" then { "packing" => packing(typed) }
      else { field => flag(typed) }
      end
    rescue GateMile::Malformed => e
      raise Fault.new(e.code, **e.numbers)
    end

    # @param cell [String, nil] of a table: classes by their names, yes and no, tags with semicolons between
    # @return [Object] as the contract has it
    # @raise [Fault]
    def of_cell(field, cell)
      cell = cell.to_s.strip
      case field
      when *REGISTERS.keys then named(field, cell)
      when "tags" then cell.split(/[;,]/)
      when "hazardous", "ships" then yes(cell, default: field == "ships")
      else cell
      end
    end

    # @param field [String] "class" or "tax_class"
    # @return [Hash{String => String}] ids by lower-case name
    def names(field)
      (@names ||= {})[field] ||= REGISTERS.fetch(field).first.pluck(:name, :id)
                                          .to_h { |name, id| [GateMile::Product.fold(name), id] }
    end

    # @return [void] the registers have changed
    def forget_names = @names = nil

    private

    def text(typed, most)
      text = typed.to_s.strip
      raise Fault, :missing if text.empty?
      raise Fault.new(:too_long, most: most, length: text.length) if text.length > most
      raise Fault, :control_characters if text.match?(/[[:cntrl:]]/)

      text
    end

    def price(typed)
      return if typed.to_s.strip.empty?

      amount = GateMile::Money.parse(typed.to_s, @money)
      raise Fault, :negative if amount.negative?

      amount.minor
    end

    def weight(typed, sure)
      return { "weight" => nil, "weight_ng" => nil } if typed.to_s.strip.empty?

      weight = GateMile::Weight.parse(typed, unit: @weight_unit)
      doubt(weight) unless sure
      { "weight" => weight.to_s, "weight_ng" => weight.base.floor }
    end

    def doubt(weight)
      return unless GateMile::Doubt.of(weight)

      raise Fault.new(:doubtful_weight, weight: weight, suggestion: GateMile::Doubt.meant(weight)&.to_s)
    end

    def length(typed)
      GateMile::Length.parse(typed, unit: @length_unit).to_s unless typed.to_s.strip.empty?
    end

    def tags(typed)
      reader = GateMile::Reader.new({ "tags" => typed.map { |tag| tag.to_s.strip }.reject(&:empty?) })
      tags = GateMile::Product.read_tags(reader)
      problem = reader.problems.first
      problem ? raise(Fault.new(problem.code, **problem.numbers)) : tags
    end

    def register(field, id)
      model, column = REGISTERS.fetch(field)
      raise Fault, :unknown_id unless id.nil? || names(field).value?(id) || model.exists?(id: id)

      { column => id }
    end

    def named(field, name)
      return if name.empty?

      names(field)[GateMile::Product.fold(name)] or raise Fault.new(:no_class_named, name: name)
    end

    def packing(typed)
      text = typed.to_s.strip.downcase
      text = GateMile::Product::PACKING.first if text.empty?
      return text if GateMile::Product::PACKING.include?(text)

      raise Fault.new(:not_one_of, choices: GateMile::Product::PACKING.join(", "))
    end

    def flag(typed) = [true, false].include?(typed) ? typed : raise(Fault, :not_true_or_false)

    def yes(cell, default:)
      return default if cell.empty?
      return true if YES.include?(cell.downcase)
      return false if NO.include?(cell.downcase)

      raise Fault, :yes_or_no
    end
  end
end
