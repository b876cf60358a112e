# frozen_string_literal: true

module GateMile
  # Places that ISO 3166 spells twice, as a country and as a region of another country. A place with both spellings is
  # brought to its country code before anything is compared; the list is the one of the standard's own remarks
  # ("included also as a country").
  module Territories
    BY_REGION = {
      "US" => %w[AS GU MP PR UM VI].to_h { |code| [code, code] },
      "FR" => { "971" => "GP", "972" => "MQ", "973" => "GF", "974" => "RE", "976" => "YT", "GP" => "GP", "MQ" => "MQ",
                "GF" => "GF", "RE" => "RE", "YT" => "YT", "BL" => "BL", "MF" => "MF", "NC" => "NC", "PF" => "PF",
                "PM" => "PM", "TF" => "TF", "WF" => "WF" },
      "NL" => { "AW" => "AW", "CW" => "CW", "SX" => "SX", "BQ1" => "BQ", "BQ2" => "BQ", "BQ3" => "BQ" },
      "CN" => %w[HK MO TW].to_h { |code| [code, code] },
      "FI" => { "01" => "AX" },
      "NO" => { "21" => "SJ", "22" => "SJ" }
    }.freeze
    # The Crown Dependencies, and Gibraltar, share the form of British postcodes: their areas say where they are.
    BY_POSTCODE = { "IM" => "IM", "JE" => "JE", "GY" => "GG", "GX" => "GI" }.freeze
    CROWN = %w[IM JE GG].freeze
    private_constant :CROWN

    # @param country [String]
    # @param region [String, nil] a region's code
    # @return [String, nil] the country code of the same place, where it has one
    def self.country_of(country, region) = BY_REGION.dig(country, region)

    # @param country [String]
    # @return [Array<String>] the country codes of its territories
    def self.of(country)
      list = BY_REGION.fetch(country, {}).values.uniq
      country == "GB" ? CROWN : list
    end
  end
end
