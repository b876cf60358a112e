# frozen_string_literal: true

module GateMile
  # A moment as the merchant writes it: date and time on the store's clock, "2026-11-27T18:00".
  module LocalMoment
    PATTERN = /\A(\d{4})-(\d{2})-(\d{2})T([01]\d|2[0-3]):([0-5]\d)\z/
    private_constant :PATTERN

    class << self
      # @param text [String]
      # @param time_zone [String] IANA name
      # @param role [Symbol] :start or :end. Of a time that happens twice a start means the first and an end the second;
      #   one that does not exist means the first valid moment after it.
      # @return [Time] in UTC
      # @raise [Malformed] :not_a_moment
      def utc(text, time_zone, role: :start)
        zone = TZInfo::Timezone.get(time_zone)
        local = parse(text)
        zone.local_to_utc(local) { |periods| role == :start ? periods.first : periods.last }.utc
      rescue TZInfo::PeriodNotFound
        after_gap(zone, local)
      end

      # @param time [Time]
      # @param time_zone [String]
      # @return [Time] what the store's clock shows then, as if it were UTC
      def local(time, time_zone)
        seen = TZInfo::Timezone.get(time_zone).to_local(time)
        Time.utc(seen.year, seen.month, seen.day, seen.hour, seen.min, seen.sec)
      end

      private

      def parse(text)
        parts = text.is_a?(String) ? PATTERN.match(text.strip)&.captures&.map(&:to_i) : nil
        raise Malformed, :not_a_moment unless parts && Date.valid_date?(*parts.first(3))

        Time.utc(*parts)
      end

      # Clocks were put forward over it: the moment at which that happened.
      def after_gap(zone, local)
        near = zone.transitions_up_to(local + 172_800, local - 172_800)
        seconds = local.to_i
        near.find { |change| seconds.between?(*walls(change)) }.at.to_time.utc
      end

      # The first and last second that clocks never showed.
      def walls(change)
        at = change.at.to_i
        [at + change.previous_offset.observed_utc_offset, at + change.offset.observed_utc_offset - 1]
      end
    end
  end
end
