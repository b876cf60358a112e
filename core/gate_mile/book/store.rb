# frozen_string_literal: true

autoload :TZInfo, "tzinfo"

module GateMile
  # The shop itself: what holds for everything in its book.
  #
  # country: ISO code; currency: {Currency}; time_zone: IANA name; weight_unit, length_unit: the units that the
  # merchant reads; prices_include_tax: whether the goods' prices do; method_order: "price" or "merchant", the order
  # in which a quote lists its methods; ship_from: {Address}; tax_classes: {TaxClass}es, the first for goods that name
  # none; basis: {Basis} of the order value; parcels: {ParcelPolicy}; zero_word: what a price of nothing is called;
  # nothing_text: the merchant's words to a shopper where nothing is available, or nil; storefront: {Storefront};
  # boxes: {Box}es to pack into; holidays: ISO dates that are no business days;
  # holiday_region: whose they are, for whoever keeps the list.
  class Store < Value.of(:name, :country, :currency, :time_zone, :weight_unit, :length_unit, :prices_include_tax,
                         :method_order, :ship_from, :tax_classes, :basis, :parcels, :zero_word, :nothing_text,
                         :storefront, :boxes, :holidays, :holiday_region)
    ORDERS = %w[price merchant].freeze
    # Holidays that a book can hold: some decades of them.
    HOLIDAYS = 3000

    # @param reader [Reader]
    # @return [Store]
    def self.read(reader)
      currency = reader.parsed("currency") { |text| Currency[text] }
      prices = currency || Currency::UNREAD
      new(name: reader.text("name"), country: reader.parsed("country") { |text| Countries.parse(text) },
          currency: currency,
          time_zone: reader.parsed("time_zone") { |text| time_zone(text) },
          weight_unit: reader.choice("weight_unit", among: Weight::UNITS.keys),
          length_unit: reader.choice("length_unit", among: Length::UNITS.keys),
          prices_include_tax: reader.flag("prices_include_tax"),
          method_order: reader.choice("method_order", among: ORDERS, default: "price"),
          ship_from: reader.object("ship_from", required: false)&.then { |item| Address.read(item) } ||
                     Address::UNKNOWN,
          tax_classes: reader.list("tax_classes", required: false, most: 50) { |item| TaxClass.read(item) },
          basis: reader.object("basis", required: false)&.then { |item| Basis.read(item) } || Basis::DEFAULT,
          parcels: ParcelPolicy.of(reader) || ParcelPolicy::DEFAULT,
          zero_word: reader.text("zero_word", required: false, most: 40),
          nothing_text: reader.text("nothing_text", required: false, most: 500),
          storefront: Storefront.of(reader),
          holiday_region: reader.text("holiday_region", required: false, most: 20),
          holidays: holidays(reader),
          boxes: reader.list("boxes", required: false, most: 200) { |item| Box.read(item, prices) })
        .tap { reader.finish }
    end

    def self.holidays(reader)
      days = reader.texts("holidays", most: HOLIDAYS, longest: 10)
      days.each_with_index { |text, at| reader.problem(["holidays", at], :not_a_date) unless Calendar.date?(text) }
      days.to_set
    end
    private_class_method :holidays

    # @param text [String] an IANA name such as "Europe/London"
    # @return [String] the same
    # @raise [Malformed] :unknown_time_zone
    def self.time_zone(text)
      TZInfo::Timezone.get(text.to_s).identifier
    rescue TZInfo::InvalidTimezoneIdentifier
      raise Malformed, :unknown_time_zone
    end

    # @param own [Basis, nil] of a plan, an offer or a rule
    # @return [Basis] a whole one: what it leaves open is the store's
    def basis_for(own) = own.nil? ? basis : own.over(basis)

    # @return [Boolean] whether quotes list their methods by price
    def by_price? = method_order == "price"

    # @param id [String, nil]
    # @return [TaxClass, nil]
    def tax_class(id) = id && tax_classes.find { |item| item.id == id }

    # @param name [String] as codes are compared
    # @return [TaxClass, nil]
    def tax_class_named(name) = tax_classes.find { |item| Product.fold(item.name) == Product.fold(name) }

    # @return [Hash] for JSON
    def dump
      { "name" => name, "country" => country, "currency" => currency.code, "time_zone" => time_zone,
        "weight_unit" => weight_unit, "length_unit" => length_unit, "prices_include_tax" => prices_include_tax,
        "method_order" => method_order, "ship_from" => ship_from.dump,
        "tax_classes" => (tax_classes.map(&:dump) if tax_classes.any?),
        "basis" => basis.dump, "parcels" => parcels.dump,
        "zero_word" => zero_word, "nothing_text" => nothing_text,
        "holiday_region" => holiday_region, "holidays" => (holidays.to_a.sort if holidays.any?),
        "boxes" => (boxes.map(&:dump) if boxes.any?),
        "storefront" => (storefront.dump unless storefront == Storefront::CLOSED) }.compact
    end
  end
end
