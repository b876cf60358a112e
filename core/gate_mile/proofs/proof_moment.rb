# frozen_string_literal: true

module GateMile
  # When a proof's cart is checked out: at a moment that was written down, at an hour of some days of the week, or
  # whenever it is looked at.
  #
  # at: a moment on the store's clock, "2026-11-27T18:00", or nil; weekdays: 1 for Monday to 7 for Sunday, or nil;
  # time: the hour of these days, "12:00".
  class ProofMoment < Value.of(:at, :weekdays, :time)
    WEEK = 7

    # @return [Boolean] whether it comes to something else on another day
    def moving? = at.nil?

    # @return [Boolean] whether it is the moment at which somebody looks
    def whenever? = at.nil? && weekdays.nil?

    # @param now [Time] from which days are counted
    # @param time_zone [String] the store's
    # @return [Array<Time>] in their order; of days of the week the next of each, from tomorrow on
    def times(now, time_zone)
      return [LocalMoment.utc(at, time_zone)] if at
      return [now] if weekdays.nil?

      today = LocalMoment.local(now, time_zone).to_date
      days = (1..WEEK).map { |ahead| today + ahead }.select { |day| weekdays.include?(day.cwday) }
      days.map { |day| LocalMoment.utc("#{day.iso8601}T#{time}", time_zone) }
    end
  end
end
