# frozen_string_literal: true

module GateMile
  # Finds the smallest cart of which conditions hold, or says that there is none. It looks at carts that carry every
  # fact, and is exact for measures, goods, zones, groups, coupons, days and hours. What ties facts together in other
  # ways (a zone and a postcode, two values by different bases) is :unknown unless a cart is found.
  class Situations
    # A cart that shows something: its document, and when, on the store's clock (nil for any time).
    Situation = Struct.new(:cart, :at)
    # A moment to begin looking at, where nothing says when: a Monday.
    DAY = "2026-01-05"
    MEASURES = Condition.facts(Condition::Measured).freeze
    GOODS = Condition.facts(Condition::OfGoods).freeze
    ADDRESS = Condition.facts(Condition::OfAddress).freeze
    private_constant :DAY, :MEASURES, :GOODS, :ADDRESS

    # @param book [Book]
    # @param samples [ZoneSamples] of its zones
    def initialize(book, samples = book.zones.samples)
      @book = book
      @samples = samples
    end

    # @param wishes [Array<Array(Tree, Boolean)>] trees, each with whether it has to hold
    # @return [Situation, Symbol] :none where no cart is like that, :unknown where it can't be said
    def find(wishes)
      unknown = false
      Cases.of(wishes).each do |conditions|
        found = solve(conditions)
        return found if found.is_a?(Situation) && shown?(found, wishes)

        unknown ||= found != :none
      end
      unknown ? :unknown : :none
    rescue Cases::TooMany
      :unknown
    end

    # @param situation [Situation]
    # @return [Quote]
    def quote(situation) = @book.quote(cart(situation), at: moment(situation))

    # Whether a cart that was made is really like that.
    # @param situation [Situation]
    # @param wishes [Array<Array(Tree, Boolean)>]
    # @return [Boolean]
    def shown?(situation, wishes)
      sent = cart(situation)
      zone = @book.zones.land(sent.destination).zone || @book.zones.find(&:active) or return false
      facts = Facts.new(@book, sent, @book.basket(sent), moment(situation))
      return false if ordinary_unclear?(facts.basket, wishes)

      here = Circumstances.new(facts, zone, sent.destination)
      wishes.all? { |tree, wanted| tree.test(here).equal?(Truth.of(wanted)) }
    end

    private

    def cart(situation) = Cart.parse(situation.cart, @book.currency)
    def moment(situation) = LocalMoment.utc(situation.at || "#{DAY}T12:00", @book.store.time_zone)

    # Goods at own prices are ordinary at one method and not at another.
    def ordinary_unclear?(basket, wishes)
      apart = basket.shipping.lines.any? { |line| line.treatments.any? { |one| one.treatment.price&.apart? } }
      apart && wishes.any? { |tree, _| tree.by_ordinary?(@book.store) }
    end

    def solve(conditions)
      by_fact = conditions.group_by { |condition, _| condition.fact }
      parts = { lines: goods(by_fact), measures: measures(by_fact), at: clock(by_fact), **people(by_fact) }
      to = destinations(by_fact)
      return :none if parts.value?(:none) || to == :none
      return :unknown if [*parts.values, to].include?(:unknown)

      build(parts, to)
    end

    def goods(by_fact)
      conditions = by_fact.slice(*GOODS).values.flatten(1)
      GoodsCase.new(@book, conditions).lines
    end

    # @return [Hash, Symbol] the least of each measure that lies in all its stretches
    def measures(by_fact)
      by_fact.slice(*MEASURES).to_h do |fact, list|
        conditions = list.map(&:first)
        return :unknown if conditions.map { |one| @book.store.basis_for(one.basis) }.uniq.size > 1

        [fact, [least(fact, conditions) || (return :none), conditions]]
      end
    end

    # @return [Integer, Rational, nil]
    def least(fact, conditions)
      low, inside = conditions.filter_map { |one| [one.low.base, one.low_in] if one.low }
                              .max_by { |base, is_in| [base, is_in ? 0 : 1] } || [0, true]
      number = number_above(fact, low, inside, conditions)
      number if conditions.all? { |one| one.inside?(number) }
    end

    # Of weights and lengths halfway to the next bound, where that is nearer.
    def number_above(fact, low, inside, conditions)
      number = inside ? low : low + GaugeKind::ALL[fact].hair
      number = [number, 1].max if fact == "quantity"
      return number if inside || GaugeKind::ALL[fact].counted?

      high = conditions.filter_map { |one| one.high&.base }.min
      high && number >= high ? Rational(low + high, 2) : number
    end

    def people(by_fact)
      { group: one_of(by_fact["group"], [nil, *@book.policies.groups.map(&:id)]), coupons: coupons(by_fact["coupon"]),
        zone: one_of(by_fact["zone"], @book.zones.select(&:active).map(&:id)) }
    end

    def one_of(conditions, values)
      list = conditions.to_a
      found = values.select { |value| list.all? { |condition, wanted| condition.of.include?(value) == wanted } }
      found.empty? ? :none : found.first
    end

    # A cart may have several: one that each condition wants, and none that another bars.
    def coupons(conditions)
      wanted, barred = conditions.to_a.partition(&:last).map { |list| list.map { |condition, _| condition.of } }
      wanted.map { |ids| (ids - barred.flatten).first || (return :none) }.uniq
    end

    # @return [String, Symbol, nil] a moment on the store's clock
    def clock(by_fact)
      day = day(by_fact["date"].to_a.map(&:first), by_fact["weekday"].to_a)
      hour = hour(by_fact["time"].to_a.map(&:first))
      return :none if day == :none || hour == :none

      day || hour ? "#{day || DAY}T#{hour || "12:00"}" : nil
    end

    def day(stretches, weekdays)
      return if stretches.empty? && weekdays.empty?

      last = stretches.filter_map(&:last).min
      from = week_of(stretches.filter_map(&:first).max, last)
      days = (from..(from + 6)).reject { |date| last && date.iso8601 > last }
      found = days.find { |date| weekdays.all? { |one, wanted| one.of.include?(date.cwday) == wanted } }
      found ? found.iso8601 : :none
    end

    # The first of seven days in a row: every day of the week is among them.
    def week_of(first, last)
      return Date.iso8601(first) if first

      last ? Date.iso8601(last) - 6 : Date.iso8601(DAY)
    end

    # Every stretch of hours begins at one of their beginnings.
    def hour(stretches)
      return if stretches.empty?

      stretches.map(&:first).find { |time| stretches.all? { |one| hour_in?(one, time) } } || :none
    end

    def hour_in?(one, time)
      one.first < one.last ? time >= one.first && time < one.last : time >= one.first || time < one.last
    end

    # Where it goes and who pays: only what one fact of an address asks can be said.
    def destinations(by_fact)
      conditions = by_fact.slice(*ADDRESS).values.flatten(1)
      by_address = conditions.group_by { |condition, _| condition.address }
      found = by_address.transform_values { |list| Destinations.new(list).find }
      return :none if found.value?(:none)

      found.value?(:unknown) ? :unknown : found
    end

    def build(parts, to)
      return :none unless enough?(parts)

      lines = parts[:lines].map { |line| line.merge(NOTHING) }
      put_measures(lines, parts[:measures].transform_values(&:first), parts[:measures])
      zone = parts[:zone] && @book.zone(parts[:zone])
      address = address(to["delivery"], zone)
      Situation.new({ "lines" => lines.map(&:compact), "destination" => address && Documents.write(address),
                      "billing" => to["billing"]&.then do |billing|
                        Documents.write(billing)
                      end, "group" => name_of(parts[:group]),
                      "coupons" => parts[:coupons].filter_map { |id| code_of(id) } }.compact, parts[:at])
    end

    # In a zone the address is one that lands there; what is asked of its lines is kept.
    def address(wanted, zone)
      return (zone && @samples.of(zone)) || anywhere if wanted.nil?

      wanted.lines.any? && zone && @samples.of(zone) ? @samples.of(zone).with(lines: wanted.lines) : wanted
    end

    NOTHING = { "quantity" => 1, "unit_price" => "0", "weight" => "0 kg" }.freeze
    private_constant :NOTHING

    def anywhere = @book.zones.select(&:active).lazy.filter_map { |zone| @samples.of(zone) }.first

    # As many units as lines, at least.
    def enough?(parts)
      _, conditions = parts[:measures]["quantity"]
      return true if conditions.nil?

      wanted = [parts[:measures]["quantity"].first, parts[:lines].size].max
      parts[:measures]["quantity"][0] = wanted
      conditions.all? { |one| one.inside?(wanted) }
    end

    # The first line bears what the cart has to come to; units beyond the lines are more of it, worth and weighing
    # nothing.
    def put_measures(lines, least, known)
      units = (least["quantity"] || lines.size) - lines.size
      lines << lines.first.merge("quantity" => units) if units.positive?
      lines.first["unit_price"] = price(least["value"] || 0, known["value"]&.last)
      lines.first["weight"] = Weight.new(least["weight"] || 0, "g").then { |one| exact(one) }
      put_size(lines, least["longest"])
    end

    def put_size(lines, longest)
      return if longest.nil?

      side = exact(Length.new(longest, "mm"))
      lines.each { |line| line["size"] = GateMile::Sides::NAMES.to_h { |name| [name, side] } }
    end

    def exact(measure) = "#{Decimal.write(measure.in(measure.unit))} #{measure.unit}"

    # A unit price of which the value by the basis is so much.
    def price(minor, conditions)
      basis = @book.store.basis_for(conditions&.first&.basis)
      with = @book.store.prices_include_tax
      rate = @book.store.tax_classes.first&.rate&.value || 0
      factor = (basis.tax == "with") == with ? 1 : 1 + Rational(rate, 100)
      factor = 1 / factor if basis.tax == "with" && !with
      Money.new((minor * factor).round(half: :up), @book.currency).to_s
    end

    def name_of(id) = id && @book.policies.groups.find { |group| group.id == id }.name
    def code_of(id) = @book.policies.coupons.find { |coupon| coupon.id == id }&.code

    # One address of which conditions on one fact hold.
    class Destinations
      # @param conditions [Array<Array(Condition::OfAddress, Boolean)>]
      def initialize(conditions)
        @conditions = conditions
      end

      # @return [Address, Symbol]
      def find
        facts = @conditions.map { |condition, _| [condition.fact, condition.country] }.uniq
        return :unknown if facts.size > 1

        case facts.first.first
        when "po_box" then box
        when "country" then country
        else listed
        end
      end

      private

      def wanted = @conditions.select(&:last).map(&:first)
      def barred = @conditions.reject(&:last).map(&:first)

      def box
        return :none if wanted.any? && barred.any?

        Address.new(country: "GB", postcode: "ZZ99 9ZZ", lines: [wanted.any? ? "PO Box 1" : "1 Quay"])
      end

      def country
        found = Countries::CODES.find { |code| @conditions.all? { |one, is| one.of.include?(code) == is } }
        found ? Address.new(country: found, lines: []) : :none
      end

      # Regions and postcodes of one country: what they name themselves is tried.
      def listed
        tries = wanted.flat_map(&:of).uniq.flat_map { |one| addresses(one) }
        tries << Address.new(country: @conditions.first.first.country == "FR" ? "DE" : "FR", lines: []) if wanted.empty?
        found = tries.find { |address| @conditions.all? { |one, is| holds?(one, address) == is } }
        found || (contradicts? ? :none : :unknown)
      end

      def addresses(one)
        country = @conditions.first.first.country
        return [Address.new(country: country, region: one, lines: [])] if one.is_a?(String)

        Samples.of(one, country).map { |code| Address.new(country: country, postcode: code.text, lines: []) }
      end

      # What one names is all barred by another.
      def contradicts?
        wanted.any? { |one| (one.of.map(&:to_s) - barred.flat_map { |other| other.of.map(&:to_s) }).empty? }
      end

      def holds?(condition, address)
        place = Place.of(address)
        return false if place.country != condition.country
        return place.regions.to_a.any? { |code| condition.of.include?(code) } if condition.fact == "region"

        !place.postcode.nil? && condition.of.any? do |clause|
          clause.match?(place.postcode, Postcode.structured?(condition.country))
        end
      end
    end
    private_constant :Destinations
  end
end
