# frozen_string_literal: true

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

    def initialize(time_zone: nil, holidays: nil, tax_classes: [], **)
      @clock = Clock.new(time_zone) if time_zone
      @calendar = Calendar.new(holidays.to_a.select { |text| Calendar.date?(text) })
      @usual_tax = tax_classes.first&.rate || Percentage::NONE
      @tax_by_id = tax_classes.to_h { |item| [item.id, item] }
      @tax_by_name = tax_classes.to_h { |item| [Product.fold(item.name.to_s), item] }
      super
    end

    # @return [Clock]
    attr_reader :clock
    # @return [Calendar] of the store's holidays
    attr_reader :calendar
    # @return [Percentage] of goods that name no tax class
    attr_reader :usual_tax

    # @param own [Basis, nil] of a plan, an offer or a rule
    # @return [Basis] a whole one: what it leaves open is the store's
    def basis_for(own) = own.nil? ? basis : own.over(basis)

    # @return [Boolean] whether quotes list their methods by price
    def by_price? = method_order == "price"

    # @param id [String, nil]
    # @return [TaxClass, nil]
    def tax_class(id) = id && @tax_by_id[id]

    # @param name [String] as codes are compared
    # @return [TaxClass, nil]
    def tax_class_named(name) = @tax_by_name[Product.fold(name)]
  end
end
