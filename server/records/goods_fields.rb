# frozen_string_literal: true

module Server
  module Records
    # Reads fields of products as they are typed, pasted or imported in one shop: with its currency, its units, and what
    # its registers hold.
    class GoodsFields
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

      # @return [GateMile::Currency]
      attr_reader :money
      # @return [String] of what is typed without one
      attr_reader :weight_unit, :length_unit

      # @param store [Records::Store]
      def initialize(store = Records::Store.current)
        @money = store.money
        @weight_unit = store.weight_unit
        @length_unit = store.length_unit
      end

      # @param name [String] of a {GoodsField}
      # @param typed [Object] text, or what the contract says of the field
      # @param sure [Boolean] doubtful values are meant
      # @return [Hash] columns and their values
      # @raise [Fault]
      def read(name, typed, sure: false)
        GoodsField[name].read(typed, self, sure)
      rescue GateMile::Malformed => e
        raise Fault.new(e.code, **e.numbers)
      end

      # @param name [String]
      # @param cell [String, nil] of a table: classes by their names, yes and no, tags with semicolons between
      # @return [Object] as the contract has it
      # @raise [Fault]
      def of_cell(name, cell) = GoodsField[name].of_cell(cell.to_s.strip, self)

      # @param name [String] of a {GoodsField::Register}
      # @return [Hash{String => String}] ids by folded name
      def names(name)
        (@names ||= {})[name] ||= register(name).to_h { |called, id| [GateMile::Product.fold(called), id] }
      end

      # @param name [String] of a {GoodsField::Register}
      # @param id [String, nil]
      # @return [String, nil] its name there
      def called(name, id)
        ((@called ||= {})[name] ||= register(name).to_h(&:reverse))[id]
      end

      # @return [GoodsFields] itself, with all registers loaded: it needs no database after that
      def whole
        GoodsField::ALL.grep(GoodsField::Register).each do |field|
          names(field.name)
          called(field.name, nil)
        end
        self
      end

      private

      def register(name) = GoodsField[name].model.pluck(:name, :id)
    end
  end
end
