# frozen_string_literal: true

module GateMile
  # When things hold and when they arrive, in JSON.
  module PromiseForms
    # First and last moment: keys of what they belong to.
    module PeriodForm
      class << self
        # @param reader [Reader] of what has `starts` and `ends`
        # @return [Period]
        def read(reader, setting)
          from, to = { "starts" => :start, "ends" => :end }.map do |key, role|
            reader.parsed(key, required: false) do |text|
              setting.time_zone ? [text, LocalMoment.utc(text, setting.time_zone, role: role)] : nil
            end
          end
          reader.problem("ends", :ends_before) if from && to && to.last <= from.last
          Period.new(starts: from&.first, ends: to&.first, from: from&.last, to: to&.last)
        end

        # @return [Hash] for JSON
        def write(period) = { "starts" => period.starts, "ends" => period.ends }.compact
      end
    end

    # The days and hours of a method.
    module DeliveryForm
      TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
      private_constant :TIME

      class << self
        # @return [Delivery]
        def read(reader, _setting = nil)
          least, most = days(reader)
          from, till = %w[from until].map { |key| time(reader, key) }
          reader.problem("until", :missing) if from && till.nil?
          reader.problem("from", :missing) if till && from.nil?
          delivery = Delivery.new(least: least, most: most, cutoff: time(reader, "cutoff"), opens: from, closes: till,
                                  collection_days: weekdays(reader), hide: reader.flag("hide", default: false))
          reader.problem("cutoff", :missing) if delivery.hide && delivery.cutoff.nil?
          reader.finish
          delivery
        end

        # @return [Hash] for JSON
        def write(delivery)
          { "least" => delivery.least, "most" => delivery.most, "cutoff" => delivery.cutoff,
            "hide" => (true if delivery.hide), "from" => delivery.opens, "until" => delivery.closes,
            "collection_days" => (delivery.collection_days unless delivery.collection_days == Delivery::WEEKDAYS) }
            .compact
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
          usual = Delivery::WEEKDAYS
          return usual unless reader.given?("collection_days", read: true)

          list = reader.values("collection_days", most: 7)
          good = list.any? && list.all? { |day| day.is_a?(Integer) && day.between?(1, 7) }
          good ? list.uniq.sort : reader.problem("collection_days", :out_of_range, least: 1, most: 7) || usual
        end
      end
    end
  end
end
