# frozen_string_literal: true

require "holidays"

module Server
  # Public holidays of a country or a part of it, as dates: the book holds them, the core only counts.
  module BankHolidays
    class << self
      # @return [Array<String>] what can be chosen, e.g. "gb_eng"
      def regions = @regions ||= Holidays.available_regions.map(&:to_s).grep(/\A[a-z]{2}(_[a-z0-9]+)?\z/).sort

      # @param region [String, nil]
      # @param today [Date]
      # @return [Array<String>] ISO dates from today on, for as long as anything is promised
      def dates(region, today = Date.today)
        return [] if region.nil?

        kept = (@dates ||= {})[[region, today]]
        kept || (@dates = { [region, today] => found(region, today) }).values.first
      end

      private

      def found(region, today)
        Holidays.between(today - 7, today + 550, region.to_sym, :observed).map { |day| day[:date].iso8601 }.uniq
      end
    end
  end
end
