# frozen_string_literal: true

module GateMile
  # What lies between two books: says whether a quote that looked at some things may come to something else in the
  # newer one. It never says no where it does; what it says yes to is asked again.
  class Edited
    # @param old [Book]
    # @param new [Book]
    def initialize(old, new)
      @old = old
      @new = new
      @same = {}
    end

    # @param looked [Looked]
    # @return [Boolean]
    def touches?(looked)
      everything? || lands?(looked) || goods?(looked) || (looked.priced && zones(looked).any? { |id| prices?(id) })
    end

    # @param id [String] of a zone
    # @return [Boolean] whether any quote there may come to something else, goods that differ themselves left aside
    def zone?(id)
      everything? || zones_changed.any? || kept(:classes) { @old.classes != @new.classes } ||
        kept(:all_treatments) { @old.treatments.to_a != @new.treatments.to_a } || prices?(id)
    end

    private

    def kept(name) = @same.fetch(name) { @same[name] = yield }

    def everything?
      kept(:everything) do
        @old.store != @new.store || register(@old) != register(@new) || @old.carriers != @new.carriers ||
          @old.rules != @new.rules
      end
    end

    def register(book) = [book.policies.groups, book.policies.coupons]

    def zones(looked) = looked.zones

    # Where an address lands is up to the zones that have something of its country.
    def lands?(looked)
      return false if zones_changed.empty?

      looked.country.nil? || countries_changed.include?(:world) || countries_changed.include?(looked.country) ||
        zones_changed.intersect?(looked.zones)
    end

    # A zone that moves changes places with others.
    def zones_changed
      kept(:zones) do
        old, new = [@old, @new].map { |book| book.zones.to_a }
        (old.map(&:id) == new.map(&:id) ? old.zip(new).reject { |one, other| one == other } : [old, new])
          .flatten.map(&:id).uniq
      end
    end

    def countries_changed
      kept(:countries) do
        [@old, @new].flat_map { |book| zones_changed.filter_map { |id| book.zone(id) } }
                    .flat_map { |zone| zone.areas.flat_map { |area| countries_of(area) } }.to_set
      end
    end

    def countries_of(area)
      return [:world] if area.kind == :world

      [area.country, *area.regions.to_a.filter_map { |region| Territories.country_of(area.country, region) }]
    end

    def goods?(looked)
      looked.skus.any? { |sku| product(@old, sku) != product(@new, sku) } || treatments?(looked)
    end

    # A variant is its product's.
    def product(book, sku) = book.catalogue[sku]&.product

    def treatments?(looked)
      kept(:treatment_order) { @old.treatments.map(&:id) != @new.treatments.map(&:id) } ||
        kept(:classes) { @old.classes != @new.classes } || changed_treatments.intersect?(looked.treatments)
    end

    def changed_treatments
      kept(:treatments) do
        @old.treatments.zip(@new.treatments).filter_map { |one, other| one.id unless one == other }
      end
    end

    # Whether something that has to do with the prices of a zone differs.
    def prices?(id)
      kept([:prices, id]) { rates(@old, id) != rates(@new, id) || methods?(id) || offers(@old, id) != offers(@new, id) }
    end

    def rates(book, id) = book.zone(id)&.then { |zone| book.rates_of(zone) }

    # A method may be in a zone; which are free there is a matter of all.
    def methods?(id)
      [@old, @new].flat_map { |book| rates(book, id).to_a.map(&:method_id) }.uniq.any? do |method|
        @old.shipping_method(method) != @new.shipping_method(method)
      end
    end

    def offers(book, id) = book.offers.select { |offer| offer.in_zone?(id) }
  end
end
