# frozen_string_literal: true

require "holidays"

module Server
  # Public holidays of a country or a part of it, as dates: the book holds them, the core only counts.
  module BankHolidays
    YEARS = (2020..2079)
    LOCK = Mutex.new
    private_constant :LOCK

    class << self
      # @return [Array<String>] what can be chosen, e.g. "gb_eng"
      def regions = @regions ||= Holidays.available_regions.map(&:to_s).grep(/\A[a-z]{2}(_[a-z0-9]+)?\z/).sort

      # @param region [String, nil]
      # @return [Array<String>] ISO dates of all the years that a book knows: they depend on the region alone, so that a
      #   book says the same tomorrow as today, and a shop that nobody edits does not run out of them
      def dates(region)
        return [] if region.nil?

        LOCK.synchronize { @dates[region] ||= found(region).freeze }
      end

      private

      def found(region)
        first, last = YEARS.minmax
        Holidays.between(Date.new(first, 1, 1), Date.new(last, 12, 31), region.to_sym, :observed)
                .map { |day| day[:date].iso8601 }.uniq
      end
    end
    @dates = {}
  end
end
