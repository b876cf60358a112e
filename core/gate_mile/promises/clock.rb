# frozen_string_literal: true

module GateMile
  # The store's clock: what it shows at a moment.
  class Clock
    # A moment as the clock shows it, in whole numbers. day: days since 1970-01-01; minute: of the day.
    Reading = Struct.new(:day, :minute) do
      # @return [Date]
      def date = Calendar.date(day)

      # @return [Integer] 1 for Monday to 7 for Sunday
      def weekday = Calendar.weekday(day)

      # @return [String] e.g. "18:00"
      def time = format("%<hour>02d:%<minute>02d", hour: minute / 60, minute: minute % 60)
    end

    # @param time_zone [String] IANA name
    def initialize(time_zone)
      @zone = TZInfo::Timezone.get(time_zone)
    end

    # @param time [Time]
    # @return [Reading]
    def read(time)
      seconds = time.to_i
      day, second = (seconds + offset(seconds)).divmod(86_400)
      Reading.new(day, second / 60)
    end

    private

    # Seconds ahead of UTC. The stretch between two changes is kept: most questions are about now.
    def offset(seconds)
      from, to, offset = @stretch
      return offset if offset && seconds >= from && seconds < to

      period = @zone.period_for(Time.at(seconds).utc)
      ends = [period.start_transition, period.end_transition].map { |change| change&.at&.to_i }
      @stretch = [ends[0] || -Float::INFINITY, ends[1] || Float::INFINITY, period.observed_utc_offset].freeze
      @stretch.last
    end
  end
end
