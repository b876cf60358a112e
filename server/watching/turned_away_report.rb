# frozen_string_literal: true

module Server
  # What checkouts asked for and could not get, over some days: carts with one cause in one place together, the most
  # frequent first; and methods that were there to choose and were not chosen.
  class TurnedAwayReport
    # Days that can be looked at, and how many are looked at where nobody says.
    DAYS = (1..AskedRows::DAYS)
    USUAL = 30
    # Groups, and postcodes of each, that are told.
    GROUPS = 100
    POSTCODES = 5
    # What part of a group's carts goods are in, to be told as what they have in common.
    COMMON = Rational(4, 5)
    # Causes that say nothing of a cart: see {CheckoutAnswer}.
    STANDING = %w[rate_off method_off].freeze
    # What is told first of what kept a cart's methods away: the goods themselves, then what is not known of them, then
    # carriers, then what is set.
    FIRST = %w[line_barred not_carried unknown_product too_heavy no_box no_weight no_size live_failed live_waiting
               hidden_by_rule outside_areas no_price no_class_price beyond].freeze
    # How often a method must have been there to choose, to say that it is never chosen.
    OFTEN = 5
    private_constant :GROUPS, :POSTCODES, :COMMON, :STANDING, :FIRST, :OFTEN

    # @param days [Integer]
    # @param now [Time]
    def initialize(days, now: Time.now)
      @since = (now.utc.to_date - days + 1)
    end

    # @return [Hash] TurnedAwayReport of the contract
    def document
      rows = Records::TurnedAway.where("day >= ?", @since).to_a
      groups = rows.group_by { |row| key(row) }.values.sort_by { |group| -group.sum(&:times) }
      @names = Records::Product.where(sku: rows.flat_map(&:goods).uniq).pluck(:sku, :name).to_h
      @money = Records::Store.current.money
      { since: @since.iso8601, carts: rows.sum(&:times), worth: money(rows.sum(&:worth)),
        groups: groups.first(GROUPS).map { |group| told(group) }, countries: sums(rows, :country), chosen: chosen }
    end

    private

    def key(row) = [row.status, row.zone || row.country, row.zone ? nil : row.region, main(row)]

    def telling(row) = (row.causes - STANDING).then { |causes| causes.empty? ? row.causes : causes }

    # Carts with the same main cause are alike, whatever else keeps one or the other of them away.
    def main(row) = telling(row).min_by { |cause| FIRST.index(cause) || FIRST.size }

    def shared(group)
      all = group.sum(&:times)
      group.flat_map { |row| telling(row) }.uniq.select do |cause|
        group.sum { |row| telling(row).include?(cause) ? row.times : 0 } >= all * COMMON
      end
    end

    def told(group)
      first = group.first
      smallest = group.map(&:cart).min_by { |cart| cart["lines"].sum { |line| line["quantity"].to_i } }
      { status: first.status, zone: first.zone, country: one(group.map(&:country)), region: one(group.map(&:region)),
        causes: shared(group), goods: common(group), times: group.sum(&:times), worth: money(group.sum(&:worth)),
        first_at: group.map(&:first_at).min.utc.iso8601, last_at: group.map(&:last_at).max.utc.iso8601,
        postcodes: postcodes(group), cart: smallest }
    end

    # @return [Hash{String => Integer}] how often, by what stands in a column
    def sums(rows, column)
      rows.select(&column).group_by(&column).transform_values { |list| list.sum(&:times) }
    end

    def one(values) = values.uniq.then { |list| list.first if list.one? }
    def money(minor) = GateMile::Money.new(minor, @money).to_s

    def common(group)
      all = group.sum(&:times)
      counts = group.each_with_object(Hash.new(0)) { |row, found| row.goods.each { |sku| found[sku] += row.times } }
      found = counts.select { |sku, times| !sku.empty? && times >= all * COMMON }.keys
      found.map { |sku| { sku: sku, name: @names[sku] } }
    end

    def postcodes(group)
      found = sums(group, :postcode).sort_by { |code, times| [-times, code] }
      found.first(POSTCODES).map { |code, times| { code: code, times: times } }
    end

    # Of rates that there are still, the least chosen first.
    def chosen
      offered = Records::OfferedMethod.where("day >= ?", @since).group(:rate).sum(:times)
      orders = Records::Order.where("placed_at >= ?", @since.to_time(:utc)).group(:zone, :method_id).count
      rates = Records::Rate.where(id: offered.keys).includes(:shipping_method, :zone)
      list = rates.map do |rate|
        { rate: rate.id, zone: rate.zone.name, name: rate.name || rate.shipping_method.name, offered: offered[rate.id],
          chosen: orders.fetch([rate.zone_id, rate.shipping_method_id], 0) }
      end
      often = list.select { |one| one[:offered] >= OFTEN }
      often.sort_by { |one| [Rational(one[:chosen], one[:offered]), -one[:offered]] }
    end
  end
end
