# frozen_string_literal: true

module GateMile
  # Carts in JSON.
  module CartForms
    # One line: what it says itself of its goods stands beside what and how many.
    module LineForm
      class << self
        # The short way for a line that says what and how many, and no more: most are like that.
        # @param document [Object]
        # @return [CartLine, nil] nil where it has to be read at length
        def plain(document)
          return unless document.is_a?(Hash) && document.size == 2

          sku = document["sku"]
          quantity = document["quantity"]
          return unless quantity.is_a?(Integer) && CartLine::QUANTITIES.cover?(quantity)

          return unless sku.is_a?(String) && sku.length <= CartLine::SKU && sku.match?(CartLine::NEAT)

          CartLine.short(sku, quantity)
        end

        # @return [CartLine]
        def read(reader, setting)
          sku = reader.text("sku", most: CartLine::SKU, required: false)
          name = reader.text("name", required: false)
          reader.problem("sku", :sku_or_name) unless sku || name
          line = CartLine.new(sku: sku, quantity: reader.whole("quantity", CartLine::QUANTITIES),
                              unit_price: reader.money("unit_price", setting.currency, required: false),
                              discount: reader.money("discount", setting.currency, required: false),
                              own: own(reader, setting, name))
          reader.finish
          line
        end

        # @return [Hash] for JSON
        def write(line)
          { "sku" => line.sku, "quantity" => line.quantity, "unit_price" => line.unit_price&.to_s,
            "discount" => line.discount&.to_s, **(line.own ? OWN.write(line.own) : {}) }.compact
        end

        private

        def own(reader, setting, name)
          own = OWN.read(reader, setting, last: false).with(name: name)
          own unless own == CartLine::Own::NOTHING
        end
      end
    end

    OWN = Form.new(CartLine::Own) do
      maybe = ->(key) { field(key) { |reader, _| reader.flag(key.name) if reader.given?(key.name, read: true) } }
      part(read: ->(_, _) { {} }, write: ->(own) { own.name ? { "name" => own.name } : {} })
      parsed(:weight) { |text| Weight.parse(text) }
      object :size, GoodsForms::SIDES
      text :shipping_class, "class", required: false, most: 60
      field(:tags) { |reader, _| GoodsForms.tags(reader) if reader.given?("tags", read: true) }
      maybe.call(:hazardous)
      text :tax_class, required: false, most: 60
      maybe.call(:ships)
    end
    private_constant :OWN

    CART = Form.new(Cart) do
      some = ->(value) { value unless value.nil? || value.empty? }
      place = ->(address) { some.call(GeographyForms::ADDRESS.write(address)) }
      field(:lines, write: ->(lines) { lines.map { |line| LineForm.write(line) } }) do |reader, setting|
        reader.values("lines", most: Cart::LINES).each_with_index.map do |document, at|
          LineForm.plain(document) || LineForm.read(reader.nth("lines", at, document), setting)
        end.freeze
      end
      %i[destination billing].each do |key|
        field(key, write: place) do |reader, setting|
          reader.object(key.name, required: false)&.then { |item| GeographyForms::ADDRESS.read(item, setting) } ||
            Address::UNKNOWN
        end
      end
      money :order_discount
      text :group, required: false, most: 60
      field(:coupons, write: some) { |reader, _| reader.texts("coupons", most: Cart::CODES, longest: 60) }
      field(:promotions, write: some) { |reader, _| reader.texts("promotions", most: Cart::CODES) }
      field(:offer_uses, write: some) { |reader, _| CartForms.uses(reader) }
    end

    # @return [Hash{String => Integer}] by offer
    def self.uses(reader)
      given = reader.object("offer_uses", required: false) or return {}
      given.names.to_h { |id| [id, given.whole(id, 0..1_000_000_000).to_i] }
    end

    class << self
      # @param document [Object] parsed JSON
      # @param currency [Currency] the shop's
      # @return [Cart]
      # @raise [Invalid]
      def parse(document, currency)
        lines = plain_lines(document)
        reader = Reader.open(lines ? document.merge("lines" => []) : document)
        cart = CART.read(reader, Setting.new(currency))
        raise Invalid, reader.problems if reader.problems.any?

        lines ? cart.with(lines: lines) : cart
      end

      private

      # Where all lines are plain nothing in them has to be looked at twice.
      def plain_lines(document)
        documents = document["lines"] if document.is_a?(Hash)
        return unless documents.is_a?(Array) && documents.size <= Cart::LINES

        documents.map { |one| LineForm.plain(one) || (return nil) }.freeze
      end
    end
  end
end
