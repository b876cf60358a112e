# frozen_string_literal: true

module GateMile
  # When a method arrives, and when it is on offer.
  #
  # least, most: business days on the way, nil where that is not said; cutoff: "14:00", up to just before which an order
  # leaves the same day, or nil; collection_days: weekdays on which goods leave, 1 for Monday; hide: whether the method
  # is closed after the cutoff; opens, closes: hours in which it is on offer, or nil.
  class Delivery < Value.of(:least, :most, :cutoff, :collection_days, :hide, :opens, :closes)
    TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
    WEEKDAYS = [1, 2, 3, 4, 5].freeze
    private_constant :TIME

    def initialize(cutoff: nil, opens: nil, closes: nil, **)
      @cutoff_minute, @opens_minute, @closes_minute = [cutoff, opens, closes].map { |text| Delivery.minute(text) }
      super
    end

    # @return [Integer, nil] of the day
    attr_reader :cutoff_minute

    # @param text [String, nil] "14:00"
    # @return [Integer, nil] minutes since midnight
    def self.minute(text) = text && ((text[0, 2].to_i * 60) + text[3, 2].to_i)

    # Of a method that says nothing of its delivery.
    USUAL = new(collection_days: WEEKDAYS)

    # @return [Boolean] whether it is on offer at some hours only
    def limited? = !opens.nil? || hide == true

    # @param minute [Integer] of the day, on the store's clock
    # @return [Symbol, nil] :closed or :after_cutoff, nil while it is open
    def shut(minute)
      return :closed if opens && !open_at?(minute)

      :after_cutoff if hide && minute >= cutoff_minute
    end

    # @param minute [Integer]
    # @return [Boolean] whether it is on offer, perhaps over midnight
    def open_at?(minute)
      return minute >= @opens_minute && minute < @closes_minute if @opens_minute < @closes_minute

      minute >= @opens_minute || minute < @closes_minute
    end
  end
end
