# frozen_string_literal: true

require "countries"

module Server
  # What the forms offer, from the standards: ISO 3166-1 names, ISO 4217 codes, IANA time zones.
  module Choices
    class << self
      # @return [Hash] the Choices of the contract
      def all
        @all ||= { countries: countries, time_zones: TZInfo::Timezone.all_data_zone_identifiers.grep(%r{/}).sort,
                   currencies: GateMile::Currency::CODES.map do |code|
                     { code: code, exponent: GateMile::Currency[code].exponent }
                   end,
                   weight_units: GateMile::Weight::UNITS.keys, length_units: GateMile::Length::UNITS.keys,
                   holiday_regions: BankHolidays.regions }
      end

      # @param code [String] ISO 3166-1 alpha-2
      # @return [String]
      def country_name(code) = ISO3166::Country[code].common_name || ISO3166::Country[code].iso_short_name

      private

      def countries
        GateMile::Countries::CODES.map do |code|
          { code: code, name: country_name(code), currency: currency(code), time_zone: time_zone(code) }
        end.sort_by { |country| country[:name].unicode_normalize(:nfkd) }
      end

      def currency(code)
        found = ISO3166::Country[code].currency_code
        found if GateMile::Currency::CODES.include?(found)
      end

      def time_zone(code)
        TZInfo::Country.get(code).zone_identifiers.first
      rescue TZInfo::InvalidCountryCode
        nil
      end
    end
  end
end
