# frozen_string_literal: true

module GateMile
  # Whether anybody can buy anything at all; zones that are off though others leave their places to them; prices of
  # nothing that stand alone.
  class OpenFindings
    MINUTES = (0...1440)
    private_constant :MINUTES

    # @param book [Book]
    def initialize(book)
      @book = book
    end

    # @return [Array<Finding>]
    def list = closed + zones_off + zeros

    private

    # The first reason why no shopper anywhere gets a price.
    def closed
      why = reason or return []
      [Finding.new(code: :nobody_buys, harm: :problem, numbers: { why: why })]
    end

    def reason
      places = @book.zones.select { |zone| zone.active && zone.areas.any? }
      return :no_zone if places.empty?
      return :no_method if @book.methods_in_order.none?(&:active)

      by_rates(places.flat_map { |zone| @book.rates_of(zone) }.select { |rate| rate.active && method_of(rate).active })
    end

    def by_rates(used)
      return :no_rate if used.empty?
      return :no_price if used.none? { |rate| rate.plan || rate.live }

      :hours if used.all? { |rate| never_open?(method_of(rate)) }
    end

    def method_of(rate) = @book.shipping_method(rate.method_id)

    def never_open?(shipping_method)
      delivery = shipping_method.delivery
      delivery&.limited? && MINUTES.all? { |minute| delivery.shut(minute) }
    end

    # A zone that is off: its places land nowhere, or its rates wait for it.
    def zones_off
      @book.zones.reject { |zone| zone.active || zone.areas.empty? }.filter_map do |zone|
        rates = @book.rates_of(zone).count { |rate| rate.active && (rate.plan || rate.live) }
        country = left_out(zone)
        if country then Finding.new(code: :zone_off_relied, harm: :warning, zone: zone.id,
                                    numbers: { country: country })
        elsif rates.positive? then Finding.new(code: :zone_off, harm: :note, zone: zone.id, numbers: { rates: rates })
        end
      end
    end

    # @return [String, nil] a country of which another zone leaves out what this one has, and nobody else takes
    def left_out(zone)
      zone.areas.reject { |area| area.kind == :world }.find do |area|
        place = place_in(area) and @book.zones.land(place).status == :none && shared?(area.country)
      end&.country
    end

    def shared?(country) = @book.zones.any? { |zone| zone.active && zone.areas.any? { |area| area.country == country } }

    def place_in(area)
      postcode = area.only.lazy.flat_map { |clause| Samples.of(clause, area.country) }.first
      return if area.only.any? && postcode.nil?

      Address.new(country: area.country, region: area.regions.to_a.first, postcode: postcode&.text, lines: [])
    end

    # Everything that a rate takes is nothing, and it stands alone in its zone: free on purpose, or forgotten.
    def zeros
      nothing, others = plans.partition { |rate| nothing?(rate.plan) }
      nothing.reject { |rate| beside?(rate, others) }.map do |rate|
        Finding.new(code: :free_by_accident, zone: rate.zone, setting: { kind: "rate", id: rate.id },
                    harm: others.any? { |one| one.method_id == rate.method_id } ? :warning : :note,
                    numbers: { name: rate.name || method_of(rate).name, what: :all })
      end
    end

    def plans
      @book.rates_in_use.select { |rate| rate.plan && method_of(rate).kind != "collection" }
    end

    # A flat zero beside a method that costs something has a finding of its own.
    def beside?(rate, others)
      return false unless rate.plan.schedule.is_a?(Flat)

      others.any? { |one| one.zone == rate.zone } || @book.rates_in_use.any? { |one| one.zone == rate.zone && one.live }
    end

    def nothing?(plan)
      return false if [plan.adjustment.fixed, plan.adjustment.minimum].any? { |one| one&.minor&.positive? }

      found = plan.schedules.compact.map { |schedule| amounts(schedule) }
      found.any? && found.all? { |list| list.any? && list.all? { |one| one&.zero? } }
    end

    # @return [Array<Integer, nil>] minor units of all that a schedule can take; nil for a share of something
    def amounts(schedule)
      case schedule
      when Flat then [schedule.amount.minor]
      when FirstAdditional then [schedule.first.minor, schedule.additional.minor]
      when Steps then schedule.steps.reject(&:closed?).map { |step| most(step) }
      when Grid then schedule.cells.flatten.grep(Money).map(&:minor)
      else [nil]
      end
    end

    def most(step) = step.relative? ? nil : step.amount.minor + step.each&.minor.to_i
  end
end
