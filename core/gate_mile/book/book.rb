# frozen_string_literal: true

module GateMile
  # Everything the merchant has set up, as one immutable value: `book.quote(cart, at: time, carriers: port)`.
  # The order of its lists is the merchant's order.
  class Book
    FORMAT = BookForms::FORMAT
    VERSION = BookForms::VERSION

    # @return [Store]
    attr_reader :store
    # @return [Catalogue]
    attr_reader :catalogue
    # @return [Treatments] with the classes they sit on
    attr_reader :treatments
    # @return [Zones]
    attr_reader :zones
    # @return [Array<ShippingMethod>]
    attr_reader :methods_in_order
    # @return [Array<Rate>]
    attr_reader :rates
    # @return [Policies]
    attr_reader :policies
    # @return [Array<Carrier>]
    attr_reader :carriers
    # @return [Array<Proof>] in the merchant's order; they are no part of any price
    attr_reader :proofs

    # @param hash [Hash] a book document (docs/formats/book.schema.json), as parsed from JSON
    # @param catalogue [Catalogue, nil] takes the place of the document's products
    # @return [Book]
    # @raise [Invalid] with every problem of the document
    def self.compile(hash, catalogue: nil)
      reader = Reader.open(hash)
      parts = BookForms.read(reader)
      Consistency.check(reader, parts) if reader.problems.empty?
      raise Invalid, reader.problems if reader.problems.any?

      new(catalogue: catalogue || Catalogue.new(parts[:products]),
          treatments: Treatments.new(parts[:treatments], parts[:classes]),
          **parts.slice(:store, :zones, :methods, :rates, :policies, :carriers, :proofs))
    end

    # @param store [Store]
    # @param catalogue [Catalogue]
    # @param treatments [Treatments]
    # @param zones [Array<Zone>, Zones]
    # @param methods [Array<ShippingMethod>]
    # @param rates [Array<Rate>]
    # @param policies [Policies]
    # @param carriers [Array<Carrier>]
    # @param proofs [Array<Proof>]
    def initialize(store:, catalogue:, treatments:, zones:, methods:, rates:, policies: Policies::NONE, carriers: [],
                   proofs: [])
      @store = store
      @catalogue = catalogue
      @treatments = treatments
      @zones = zones.is_a?(Zones) ? zones : Zones.new(zones.freeze)
      @zones_by_id = zones.to_h { |zone| [zone.id, zone] }.freeze
      @methods_in_order = methods.freeze
      @method_ids = methods.map(&:id).freeze
      @methods_by_id = methods.to_h { |method| [method.id, method] }.freeze
      @rates = rates.freeze
      @rates_by_zone = rates.group_by(&:zone).freeze
      @policies = policies
      @rules_by_ordinary = policies.rules.each_index.select { |at| policies.rules[at].tree.by_ordinary?(store) }
      @carriers = carriers
      @proofs = proofs.freeze
      @programs = {}
      @assortment = Assortment.new(catalogue, treatments, store)
      freeze
    end

    # @return [Assortment] what cart lines can be of
    attr_reader :assortment

    # @return [Array<String>] ids of all methods, in the merchant's order
    attr_reader :method_ids

    # @return [Array<Integer>] places of the rules that look at the ordinary lines of a method
    attr_reader :rules_by_ordinary

    # @return [Array<Offer>] in the merchant's order
    def offers = policies.offers

    # @return [Array<Rule>] in the merchant's order
    def rules = policies.rules

    # @return [Currency]
    def currency = store.currency

    # @param id [String]
    # @return [Zone, nil]
    def zone(id) = @zones_by_id[id]

    # @param id [String]
    # @return [ShippingMethod, nil]
    def shipping_method(id) = @methods_by_id[id]

    # @return [Array<ShippingClass>] in the merchant's order
    def classes = treatments.classes

    # @param name [String] as codes are compared
    # @return [ShippingClass, nil]
    def class_named(name) = treatments.class_named(name)

    # @param zone [Zone]
    # @return [Array<Rate>] in the merchant's order
    def rates_of(zone) = @rates_by_zone.fetch(zone.id, [])

    # @param zone [Zone]
    # @return [Array<Program>] of its rates, in the merchant's order
    def programs_of(zone) = rates_of(zone).map { |rate| program(rate) }

    # @param rate [Rate]
    # @return [Program] made when it is first asked for
    def program(rate)
      @programs[rate.id] ||= Program.new(rate, shipping_method(rate.method_id), zone(rate.zone), store, carriers)
    end

    # @return [Array<Rate>] those that are on, with their method and their zone
    def rates_in_use
      rates.select { |rate| rate.active && shipping_method(rate.method_id).active && zone(rate.zone).active }
    end

    # @param cart [Cart]
    # @return [Basket] its lines with everything the catalogue knows about them
    def basket(cart) = Basket.of(cart, self)

    # @param cart [Cart]
    # @param at [Time] the moment of the checkout
    # @param carriers [#answers, nil] the carriers' port
    # @return [Quote]
    def quote(cart, at:, carriers: nil) = Quote.of(self, cart, at: at, carriers: carriers)

    # The same cart priced in every zone, whatever its destination.
    # @param cart [Cart]
    # @param at [Time]
    # @param carriers [#answers, nil] the carriers' port
    # @param quote [Quote, nil] what the cart gets where it goes, where that has been asked for already
    # @return [Hash{String => Array<MethodQuote>}] by zone id
    def board(cart, at:, carriers: nil, quote: nil)
      facts = Facts.new(self, cart, basket(cart), at)
      here = zones.land(cart.destination).zone
      zones.to_h do |zone|
        next [zone.id, quote.method_quotes] if quote && zone.equal?(here) && quote.method_quotes.any?

        there = zone.equal?(here) ? Destination.new(cart.destination) : Destination::SOMEWHERE
        terms = Terms.new(self, facts, zone, there.address)
        [zone.id, Quote.in_zone(self, terms, destination: there, carriers: carriers)]
      end
    end

    # @param rate [Rate] takes the place of the rate with the same id
    # @return [Book] this one is left as it is
    def with_rate(rate) = with(rates: rates.map { |other| other.id == rate.id ? rate : other })

    # @param treatment [Treatment] takes the place of the one with the same id
    # @return [Book] this one is left as it is
    def with_treatment(treatment)
      list = treatments.map { |other| other.id == treatment.id ? treatment : other }
      with(treatments: Treatments.new(list, classes))
    end

    # @param parts [Hash] what {#initialize} takes
    # @return [Book] with these in the place of its own; this one is left as it is
    def with(**parts)
      made = Book.new(store: store, catalogue: catalogue, treatments: treatments, zones: zones,
                      methods: methods_in_order,
                      rates: rates, policies: policies, carriers: carriers, proofs: proofs,
                      **parts)
      made.programs.update(programs) unless parts.keys.intersect?(PROGRAMMED)
      made
    end

    # @return [Hash] for JSON; {.compile} makes an equal book of it
    def dump
      BookForms.write({ store: store, products: catalogue, classes: classes, treatments: treatments, zones: zones,
                        methods: methods_in_order, rates: rates, carriers: carriers, policies: policies,
                        proofs: proofs })
    end

    # Parts that programs are made of: as long as they stay, so do these.
    PROGRAMMED = %i[store zones methods rates carriers].freeze
    private_constant :PROGRAMMED

    protected

    # @return [Hash{String => Program}] by rate, as far as they have been made
    attr_reader :programs
  end
end
