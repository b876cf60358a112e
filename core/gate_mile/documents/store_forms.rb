# frozen_string_literal: true

module GateMile
  # The shop itself, its methods and its rates in JSON.
  module StoreForms
    # The shop's own pages: who may ask, where carts are tried, and how the parts on them behave.
    module StorefrontForm
      # @return [Storefront]
      def self.read(reader, _setting = nil)
        origins = reader.texts("origins", most: 20, longest: 200).map { |text| Storefront.origin(text) }
        origins.each_with_index do |origin, at|
          reader.problem(["origins", at], :not_an_origin) if origin.nil?
        end
        open = reader.flag("open", default: false)
        reader.problem("origins", :no_origin) if open && origins.empty? && reader.problems.empty?
        page = reader.text("page", required: false, most: 300)
        reader.problem("page", :not_a_page) if page && !Storefront.page?(page)
        parts = reader.object("parts", required: false)&.then { |item| ShopPartsForms::PARTS.read(item, nil) }
        reader.finish
        Storefront.new(open: open, origins: origins.uniq, page: page, parts: parts || ShopParts::USUAL)
      end

      # @return [Hash] for JSON
      def self.write(storefront)
        usual = storefront.parts == ShopParts::USUAL
        { "open" => storefront.open, "origins" => storefront.origins, "page" => storefront.page,
          "parts" => (ShopPartsForms::PARTS.write(storefront.parts) unless usual) }.compact
      end
    end

    # @return [String] an IANA name
    # @raise [Malformed] :unknown_time_zone
    def self.time_zone(text)
      TZInfo::Timezone.get(text.to_s).identifier
    rescue TZInfo::InvalidTimezoneIdentifier
      raise Malformed, :unknown_time_zone
    end

    # @return [Set<String>] ISO dates
    def self.holidays(reader)
      days = reader.texts("holidays", most: Store::HOLIDAYS, longest: 10)
      days.each_with_index { |text, at| reader.problem(["holidays", at], :not_a_date) unless Calendar.date?(text) }
      days.to_set
    end

    # Prices of boxes are read in the currency that the store has just said, or in one of any decimals.
    PRICED = ->(reader) { Setting.new(StoreForms.currency(reader) || Currency::UNREAD) }
    private_constant :PRICED

    # @return [Currency, nil] as the store says it, told nowhere
    def self.currency(reader)
      text = reader.peek("currency")
      text.is_a?(String) ? Currency[text] : nil
    rescue Malformed
      nil
    end

    STORE = Form.new(Store) do
      parsed(:currency, required: true, write: ->(currency) { currency&.code }) { |text| Currency[text] }
      text :name
      parsed(:country, required: true) { |text| Countries.parse(text) }
      parsed(:time_zone, required: true) { |text| StoreForms.time_zone(text) }
      needed :weight_unit, among: Weight::UNITS.keys
      needed :length_unit, among: Length::UNITS.keys
      flag :prices_include_tax, default: nil
      choice :method_order, among: Store::ORDERS
      object :ship_from, GeographyForms::ADDRESS, default: Address::UNKNOWN
      list :tax_classes, GoodsForms::TAX_CLASS, most: 50, empty: false
      field(:basis, write: ->(basis) { GoodsForms::BASIS.write(basis) }) do |reader, setting|
        reader.object("basis", required: false)&.then do |item|
          GoodsForms::BASIS.read(item, setting).over(Basis::DEFAULT)
        end ||
          Basis::DEFAULT
      end
      object :parcels, ParcelForms::POLICY, default: ParcelPolicy::DEFAULT
      text :zero_word, required: false, most: 40
      text :nothing_text, required: false, most: 500
      field(:storefront, write: lambda { |front|
        StorefrontForm.write(front) unless front == Storefront::CLOSED
      }) do |reader, _|
        reader.object("storefront", required: false)&.then { |item| StorefrontForm.read(item) } || Storefront::CLOSED
      end
      text :holiday_region, required: false, most: 20
      field(:holidays, write: ->(days) { days.to_a.sort if days.any? }) { |reader, _| StoreForms.holidays(reader) }
      field(:boxes, write: ->(boxes) { boxes.map { |box| ParcelForms::BOX.write(box) } if boxes.any? }) do |reader, _|
        priced = PRICED.call(reader)
        reader.items("boxes", required: false, most: 200).map { |item| ParcelForms::BOX.read(item, priced) }
      end
    end

    METHOD = Form.new(ShippingMethod) do
      text :id
      text :code, most: 40
      text :name
      text :private_name, required: false
      text :promise, required: false
      flag :active, default: true
      choice :kind, among: ShippingMethod::KINDS, usual: false
      text :address, required: false, most: 300
      text :hours, required: false
      object :delivery, PromiseForms::DeliveryForm
    end

    RATE = Form.new(Rate) do
      text :id
      text :zone
      text :method_id, "method"
      text :name, required: false
      flag :active, default: true
      object :plan, PricingForms::PlanForm
      field(:areas, write: ->(sets) { sets&.first&.map { |area| GeographyForms::AreaForm.write(area) } }) do |reader, _|
        StoreForms.areas(reader)
      end
      object :cost, PricingForms::PlanForm
      object :live, LiveForms::LIVE
    end

    # @return [AreaSets, nil] of one that a rate is narrowed to
    def self.areas(reader)
      return unless reader.given?("areas", read: true)

      list = reader.items("areas", most: 300).map { |item| GeographyForms::AreaForm.read(item) }
      AreaSets.new(["inside"], [list]) if list.any?
    end

    # Groups, coupons, offers and rules: keys of the book.
    POLICIES = Form.new(Policies) do
      { groups: OfferForms::GROUP, coupons: OfferForms::COUPON, offers: OfferForms::OFFER, rules: RuleForms::RULE }
        .each { |name, form| list name, form, empty: false }
    end
  end
end
