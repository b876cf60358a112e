# frozen_string_literal: true

module GateMile
  # What is missing from the setup as a whole: the shop's own country, the address that live rates are asked from,
  # services that a carrier does not list, sizes where a rate looks at them.
  class SetupFindings
    include OfRates

    # @param book [Book]
    def initialize(book)
      @book = book
      @rates = book.rates_in_use
    end

    # @return [Array<Finding>]
    def list = own_country + no_origin + services + unsized

    private

    # Nobody at home can buy anything, while others can.
    def own_country
      country = @book.store.country
      return [] if @book.zones.none?(&:active) || Survey.new(@book.zones.coverage(country)).served != :none

      [Finding.new(code: :own_country_left_out, harm: :problem, numbers: { country: country },
                   example: Address.new(country: country, lines: []))]
    end

    def no_origin
      return [] if @book.store.ship_from.country

      @rates.select(&:live).map { |rate| finding(:live_no_origin, :problem, rate) }
    end

    def services
      @rates.select(&:live).flat_map do |rate|
        rate.live.services.filter_map do |id, code|
          carrier = @book.carriers.find { |one| one.id == id }
          next if carrier.nil? || carrier.services.empty? || carrier.services.any? { |one| one.code == code }

          finding(:live_unknown_service, :warning, rate, carrier: carrier.name, service: code)
        end
      end
    end

    # Where a size is missing that a rate looks at, its method is not there for the goods.
    def unsized
      needing = @rates.select { |rate| rate.plan && sized?(rate.plan) }
      found = needing.any? ? Alone.goods(@book).reject(&:size) : []
      return [] if found.empty?

      numbers = { rates: needing.size, count: found.size, names: found.first(GoodsFindings::SHOWN).map(&:name) }
      [Finding.new(code: :no_size, harm: :warning, zone: needing.first.zone, numbers: numbers,
                   setting: { kind: "rate", id: needing.first.id })]
    end

    def sized?(plan)
      parcels = plan.parcels || @book.store.parcels
      gauges = plan.schedules.compact.flat_map(&:gauges)
      return false if parcels.unit_size

      gauges.any? { |gauge| gauge.needs == :size } ||
        (gauges.any? { |gauge| gauge.name == "billable_weight" } && !parcels.divisor.nil? && parcels.kind != :fixed)
    end
  end
end
