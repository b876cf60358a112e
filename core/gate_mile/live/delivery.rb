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

    class << self
      # @param reader [Reader]
      # @return [Delivery]
      def read(reader)
        least, most = days(reader)
        from, till = %w[from until].map { |key| time(reader, key) }
        reader.problem("until", :missing) if from && till.nil?
        reader.problem("from", :missing) if till && from.nil?
        delivery = new(least: least, most: most, cutoff: time(reader, "cutoff"), opens: from, closes: till,
                       collection_days: weekdays(reader), hide: reader.flag("hide", default: false))
        reader.problem("cutoff", :missing) if delivery.hide && delivery.cutoff.nil?
        reader.finish
        delivery
      end

      private

      def days(reader)
        found = %w[least most].map { |key| reader.whole(key, 0..365) if reader.given?(key, read: true) }
        reader.problem("most", :ends_before) if found.all? && found[1] < found[0]
        found[0] ||= found[1]
        found[1] ||= found[0]
        found
      end

      def time(reader, key)
        reader.parsed(key, required: false) do |text|
          text.is_a?(String) && text.match?(TIME) ? text : raise(Malformed, :not_a_time)
        end
      end

      def weekdays(reader)
        return WEEKDAYS unless reader.given?("collection_days", read: true)

        list = reader.values("collection_days", most: 7)
        good = list.any? && list.all? { |day| day.is_a?(Integer) && day.between?(1, 7) }
        good ? list.uniq.sort : reader.problem("collection_days", :out_of_range, least: 1, most: 7) || WEEKDAYS
      end
    end

    # @param time [String] of the store's clock, "18:00"
    # @return [Symbol, nil] :closed or :after_cutoff, nil while it is open
    def shut(time)
      return :closed if opens && !open_at?(time)

      :after_cutoff if hide && time >= cutoff
    end

    # @param time [String]
    # @return [Boolean] whether it is on offer, perhaps over midnight
    def open_at?(time)
      opens < closes ? time >= opens && time < closes : time >= opens || time < closes
    end

    # @return [Hash] for JSON
    def dump
      { "least" => least, "most" => most, "cutoff" => cutoff, "hide" => (true if hide), "from" => opens,
        "until" => closes, "collection_days" => (collection_days unless collection_days == WEEKDAYS) }.compact
    end
  end

  # Counts business days: Monday to Friday, but for holidays.
  class Calendar
    DATE = /\A(\d{4})-(\d{2})-(\d{2})\z/
    private_constant :DATE

    # @param text [String]
    # @return [Boolean] whether it is a date of the calendar, as ISO 8601 writes it: "2026-11-27"
    def self.date?(text)
      parts = DATE.match(text)&.captures
      !parts.nil? && Date.valid_date?(*parts.map { |part| Integer(part, 10) })
    end

    # @param holidays [Set<String>] ISO dates
    def initialize(holidays)
      @holidays = holidays
    end

    # @param delivery [Delivery]
    # @param local [Time] the moment on the store's clock
    # @return [Date] on which an order leaves
    def leaves(delivery, local)
      day = local.to_date
      day += 1 if delivery.cutoff && local.strftime("%H:%M") >= delivery.cutoff
      days = (day..(day + 60))
      days.find { |date| delivery.collection_days.include?(date.cwday) && !holiday?(date) } || day
    end

    # @param date [Date]
    # @param days [Integer] business days after it
    # @return [Date]
    def after(date, days)
      days.times { date = following(date) }
      date
    end

    private

    def following(date)
      date += 1
      date += 1 until date.cwday <= 5 && !holiday?(date)
      date
    end

    def holiday?(date) = @holidays.include?(date.iso8601)
  end

  # What is due at the border, as an estimate.
  #
  # percent: {Percentage}; below: {Money} of goods under which nothing is due, or nil; carriage: whether it also falls
  # on the shipping; included: whether the merchant bears it.
  class Duty < Value.of(:percent, :below, :carriage, :included)
    GOODS = Basis.new(discounts: "after", tax: "without", lines: "shipping")

    # @param reader [Reader]
    # @param currency [Currency, nil]
    # @return [Duty]
    def self.read(reader, currency)
      percent = reader.parsed("percent") do |text|
        Percentage.parse(text).tap { |found| raise Malformed, :out_of_percent unless found.value.between?(0, 100) }
      end
      duty = new(percent: percent, below: reader.money("below", currency, required: false),
                 carriage: reader.flag("carriage", default: false), included: reader.flag("included", default: false))
      reader.finish
      duty
    end

    # @param goods [Money]
    # @param shipping [Money]
    # @return [Money] none where the goods are worth less than the threshold
    def on(goods, shipping)
      return Money.zero(goods.currency) if below && goods < below

      percent.of(carriage ? goods + shipping : goods)
    end

    # @return [Hash] for JSON
    def dump
      { "percent" => percent.to_s, "below" => below&.to_s, "carriage" => carriage, "included" => included }.compact
    end
  end
end
