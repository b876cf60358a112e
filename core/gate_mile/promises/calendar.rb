# frozen_string_literal: true

module GateMile
  # Counts business days: Monday to Friday, but for holidays. Days are whole numbers, counted from 1970-01-01.
  class Calendar
    DATE = /\A(\d{4})-(\d{2})-(\d{2})\z/
    # Julian day number of 1970-01-01, a Thursday.
    EPOCH = 2_440_588
    # Days in which goods leave at the latest, whatever the holidays.
    FAR = 60
    private_constant :DATE, :EPOCH, :FAR

    class << self
      # @param text [String]
      # @return [Boolean] whether it is a date of the calendar, as ISO 8601 writes it: "2026-11-27"
      def date?(text)
        parts = DATE.match(text)&.captures
        !parts.nil? && Date.valid_date?(*parts.map { |part| Integer(part, 10) })
      end

      # @param day [Integer]
      # @return [Date]
      def date(day) = Date.jd(day + EPOCH)

      # @param date [Date]
      # @return [Integer]
      def day(date) = date.jd - EPOCH

      # @param day [Integer]
      # @return [Integer] 1 for Monday to 7 for Sunday
      def weekday(day) = ((day + 3) % 7) + 1
    end

    # @param holidays [Enumerable<String>] ISO dates
    def initialize(holidays)
      @holidays = holidays.to_set { |text| Calendar.day(Date.iso8601(text)) }
    end

    # @param delivery [Delivery]
    # @param now [Clock::Reading] the moment on the store's clock
    # @return [Integer] the day on which an order leaves
    def leaves(delivery, now)
      first = day = delivery.cutoff && now.minute >= delivery.cutoff_minute ? now.day + 1 : now.day
      until delivery.collection_days.include?(Calendar.weekday(day)) && !holiday?(day)
        day += 1
        return first if day > first + FAR
      end
      day
    end

    # @param day [Integer]
    # @param count [Integer] business days after it
    # @return [Integer]
    def after(day, count)
      count.times do
        day += 1
        day += 1 until Calendar.weekday(day) <= 5 && !holiday?(day)
      end
      day
    end

    private

    def holiday?(day) = @holidays.include?(day)
  end
end
