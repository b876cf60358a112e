# frozen_string_literal: true

module Server
  # What goes on today, on the store's clock: quotes, what was turned away, orders, carriers, and what waits.
  module Today
    # Kinds of carts turned away that are shown.
    SHOWN = 8
    # Seconds for which calls to a carrier are counted.
    RECENT = 3600
    private_constant :SHOWN, :RECENT

    class << self
      # @param releases [ReleaseShelf]
      # @param backups [Nightly]
      # @param now [Time]
      # @return [Hash] Today of the contract
      def document(releases, backups, now: Time.now)
        start = beginning(now)
        { since: start.utc.iso8601, release: releases.number(now), hours: hours(start), **turned_away(start),
          orders: orders(start), carriers: carriers(now), waiting: waiting, backup: Nightly.dates.first&.iso8601,
          backup_trouble: backups.trouble }
      end

      private

      # @return [Time] midnight on the store's clock
      def beginning(now)
        zone = Records::Store.current.time_zone
        local = GateMile::LocalMoment.local(now, zone)
        GateMile::LocalMoment.utc(local.strftime("%FT00:00"), zone)
      end

      def hours(start)
        Records::QuoteHour.where("hour >= ?", start).order(:hour, :outcome).map do |one|
          { hour: one.hour.utc.iso8601, outcome: one.outcome, times: one.times, milliseconds: one.milliseconds,
            slowest: one.slowest }
        end
      end

      # By day in UTC: what was turned away in the first hours of a day may be from the day before.
      def turned_away(start)
        rows = Records::TurnedAway.where("last_at >= ?", start)
        shown = rows.order(times: :desc, last_at: :desc).limit(SHOWN)
        { turned_away: rows.sum(:times), turned_away_most: TurnedAwayDocuments.all(shown.to_a) }
      end

      def orders(start)
        rows = Records::Order.where("placed_at >= ?", start)
        { placed: rows.count, cancelled: rows.where.not(state: "placed").count,
          shipping: sum(rows.where(state: "placed").pluck(:price)) }
      end

      def sum(prices)
        format("%.#{Records::Store.current.money.exponent}f", prices.sum(BigDecimal(0)) { |price| BigDecimal(price) })
      end

      def carriers(now)
        calls = Carriers::Calls.list
        Records::Carrier.order(:position, :id).map do |one|
          mine = calls.select { |call| call[:carrier] == one.id && now - Time.iso8601(call[:at]) < RECENT }
          failed = mine.count { |call| !%w[answered refused].include?(call[:outcome].to_s) }
          { id: one.id, name: one.name, active: one.active, calls: mine.size, failed: failed,
            resting: Carriers::Lines.resting?(one), secret_lost: one.secret_lost? }
        end
      end

      def waiting
        { deliveries: Records::WebhookDelivery.where(state: "waiting").count,
          failed: Records::WebhookDelivery.where(state: "failed").count }
      end
    end
  end
end
