# frozen_string_literal: true

module GateMile
  # Goods in JSON: products and their variants, classes, tax classes, treatments.
  module GoodsForms
    SIDES = Form.new(Sides) do
      Sides::NAMES.each { |name| parsed(name.to_sym, required: true) { |text| Length.parse(text) } }
    end

    BASIS = Form.new(Basis) do
      Basis::CHOICES.each do |key, among|
        field(key.to_sym) { |reader, _| reader.choice(key, among: among) if reader.given?(key, read: true) }
      end
    end

    TAX_CLASS = Form.new(TaxClass) do
      text :id
      text :name, most: 60
      parsed(:rate, required: true) { |text| TaxClass.rate(text) }
    end

    SHIPPING_CLASS = Form.new(ShippingClass) do
      text :id
      text :name, most: 60
      text :description, required: false, most: 500
      texts :treatments, most: 100, empty: false
    end

    # What products and variants both say.
    OWN = lambda do |form, price_required|
      form.instance_eval do
        text :sku, most: CartLine::SKU
        text :name
        money :price, required: price_required
        money :cost
        parsed(:weight) { |text| Weight.parse(text) }
        object :size, SIDES
        text :shipping_class, "class", required: false
        texts :treatments, most: 100, empty: false
      end
    end
    private_constant :OWN

    VARIANT = Form.new(Variant) { OWN.call(self, false) }

    PRODUCT = Form.new(Product) do
      OWN.call(self, true)
      list :variants, VARIANT, most: Product::VARIANTS, empty: false
      field(:tags, write: ->(list) { list if list.any? }) { |reader, _| GoodsForms.tags(reader) }
      flag :ships, default: true
      flag :hazardous, default: false, usual: false
      choice :packing, among: Product::PACKING, usual: false
      text :tax_class, required: false
    end

    # @param reader [Reader]
    # @return [Array<String>] without the same tag twice
    def self.tags(reader) = reader.texts("tags", most: Product::TAGS, longest: 40).uniq { |tag| Product.fold(tag) }

    # An amount for each unit, or steps from 1 on.
    module ChargeForm
      class << self
        # @return [Charge]
        def read(reader, setting)
          kind = reader.choice("kind", among: Charge::KINDS)
          steps = kind == "unit" ? [[1, reader.money("amount", setting.currency)]] : steps(reader, setting.currency)
          reader.finish
          Charge.new(counting: kind&.to_sym, steps: steps)
        end

        # @return [Hash] for JSON
        def write(charge)
          return { "kind" => "unit", "amount" => charge.steps.first.last.to_s } if charge.counting == :unit

          { "kind" => charge.counting.to_s,
            "steps" => charge.steps.map { |from, amount| { "from" => from, "amount" => amount.to_s } } }
        end

        private

        def steps(reader, currency)
          last = 0
          found = reader.list("steps", most: Charge::MOST) do |item|
            from = item.whole("from", CartLine::QUANTITIES)
            amount = item.money("amount", currency)
            order(item, from, last) if from
            last = from || last
            [from, amount]
          end
          reader.problem("steps", :missing) if found.empty?
          found
        end

        def order(item, from, last)
          return item.problem("from", :step_first) if last.zero? && from != 1
          return item.problem("from", :step_twice, from: from) if from == last

          item.problem("from", :step_order, last: last) if from < last
        end
      end
    end

    # What goods pay: along with the cart, perhaps with something on top; or apart from it.
    module OwnPriceForm
      class << self
        # @return [OwnPrice]
        def read(reader, setting)
          kind = reader.choice("kind", among: OwnPrice::KINDS)
          price = kind == "apart" ? apart(reader, setting) : along(reader, setting)
          reader.finish if kind
          price
        end

        # @return [Hash] for JSON
        def write(price)
          return { "kind" => "along", "plus" => price.plus&.to_s }.compact unless price.apart?

          methods = price.by_method.map { |method, own| { "method" => method, "charge" => ChargeForm.write(own) } }
          { "kind" => "apart", "charge" => ChargeForm.write(price.charge), "by_method" => (methods if methods.any?),
            "together" => price.together }.compact
        end

        private

        def along(reader, setting) = OwnPrice.new(plus: reader.money("plus", setting.currency, required: false))

        def apart(reader, setting)
          methods = {}
          seen = {}
          reader.list("by_method", required: false, most: 200) do |item, at|
            method = item.text("method")
            item.problem("method", :twice, first: seen[method] + 1) if seen.key?(method)
            seen[method] ||= at
            methods[method] = item.object("charge")&.then { |charge| ChargeForm.read(charge, setting) }
          end
          OwnPrice.new(charge: reader.object("charge")&.then { |item| ChargeForm.read(item, setting) },
                       by_method: methods, together: reader.flag("together", default: false))
        end
      end
    end

    TREATMENT = Form.new(Treatment) do
      text :id
      text :name
      flag :active, default: true
      limit :zones
      limit :method_ids, "methods"
      object :price, OwnPriceForm
      part(read: ->(reader, _) { GoodsForms.travel(reader) }, write: ->(value) { GoodsForms.travel_document(value) })
    end

    # @return [Hash] how goods may travel
    def self.travel(reader)
      travel = reader.object("travel", required: false) or return { never: [] }
      found = { only: (travel.texts("only", most: 500) if travel.given?("only", read: true)),
                never: travel.texts("never", most: 500) }
      travel.finish
      found
    end

    # @return [Hash] for JSON
    def self.travel_document(treatment)
      travel = { "only" => treatment.only, "never" => (treatment.never if treatment.never.any?) }.compact
      travel.empty? ? {} : { "travel" => travel }
    end

    CHOICE = Form.new(GoodsChoice) do
      %i[classes tags skus].each { |key| texts key, most: GoodsChoice::MOST, empty: false }
      flag :hazardous, default: false, usual: false
      check { |reader, choice, _| reader.problem(nil, :no_goods) if reader.problems.empty? && choice.empty? }
    end
  end
end
