# frozen_string_literal: true

module Server
  # What was gathered of quotes, in the database: added to what stands there, and forgotten after a while.
  module AskedRows
    # Days that hours of quotes, and carts that were turned away, are kept.
    DAYS = 90
    # Different carts of one day; what comes after that counts among those whose goods are not told apart.
    MOST = 5000
    private_constant :MOST

    class << self
      # @param taken [Hash, nil] as {Asked#take} gives it, or as a quote server hands it on; nil for nothing
      # @param once [String, nil] id of the message that it came with: one that comes again counts once
      # @return [Boolean] whether it counted
      def store(taken, once: nil)
        return true if taken.nil? && once.nil?

        taken = taken&.deep_symbolize_keys
        Database.write do
          next false if once && !Records::TakenNotice.take(once)

          add(taken) if taken
          true
        end
      end

      # Stores what was gathered without waiting for whoever writes.
      # @param asked [Asked]
      # @return [Thread] that stores it
      def beside(asked)
        Beside.write("counting quotes") { asked.store { |taken| store(taken) } }
      end

      # @return [void]
      def tidy(now = Time.now)
        day = (now - (DAYS * 86_400)).utc.to_date
        Records::TakenNotice.where("at < ?", day.to_time(:utc)).delete_all
        Records::QuoteHour.where("hour < ?", day.to_time(:utc)).delete_all
        [Records::TurnedAway, Records::OfferedMethod].each { |rows| rows.where("day < ?", day).delete_all }
      end

      private

      def add(taken)
        taken[:quotes].each { |one| add_hour(one) }
        taken[:offered].each { |one| add_offered(one) }
        taken[:turned_away].each { |one| add_away(one) }
      end

      def add_hour(one)
        row = Records::QuoteHour.find_or_initialize_by(hour: Time.iso8601(one[:hour]), outcome: one[:outcome])
        row.update!(times: row.times.to_i + one[:times], milliseconds: row.milliseconds.to_i + one[:milliseconds],
                    slowest: [row.slowest.to_i, one[:slowest]].max)
      end

      def add_offered(one)
        row = Records::OfferedMethod.find_or_initialize_by(day: one[:day], rate: one[:rate])
        row.update!(times: row.times.to_i + one[:times])
      end

      def add_away(one)
        about = one.slice(:status, :country, :region, :postcode, :zone, :causes, :goods)
        row = Records::TurnedAway.find_or_initialize_by(day: one[:day], digest: digest(about))
        return add_away(one.merge(goods: [])) if row.new_record? && one[:goods].any? && full?(one[:day])

        row.update!(about.merge(added(row, one)))
      end

      def added(row, one)
        first, last = one.values_at(:first_at, :last_at).map { |text| Time.iso8601(text) }
        { times: row.times.to_i + one[:times], worth: row.worth.to_i + one[:worth],
          first_at: [row.first_at, first].compact.min, last_at: [row.last_at, last].compact.max,
          cart: [row.cart, one[:cart]].compact.min_by { |cart| units(cart) } }
      end

      def full?(day) = Records::TurnedAway.where(day: day).count >= MOST

      def digest(about) = Digest::SHA256.hexdigest(JSON.generate(about))[0, 32]
      def units(cart) = cart.deep_stringify_keys["lines"].sum { |line| line["quantity"].to_i }
    end
  end
end
