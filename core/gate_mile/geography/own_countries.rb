# frozen_string_literal: true

module GateMile
  # Postcodes that are written in the form of one country and lie in another: territories and small states that share
  # a neighbour's or a mother country's postal system, and are countries of their own in ISO 3166-1. An address with one
  # of them lands there, whatever its country field says.
  #
  # Sources: for France the open list of the npm package codes-postaux 4.1.2, for the United States that of zipcodes
  # 8.0.0, which test/core/geography/own_countries_test.rb compares; the others are what the postal operators publish of
  # their ranges, from memory.
  module OwnCountries
    # By country: beginnings of its postcodes, without spaces, and where they lie.
    BEGINNINGS = {
      "FR" => { "971" => "GP", "97133" => "BL", "97150" => "MF", "972" => "MQ", "973" => "GF", "974" => "RE",
                "975" => "PM", "976" => "YT", "977" => "BL", "978" => "MF", "980" => "MC", "984" => "TF", "986" => "WF",
                "987" => "PF", "988" => "NC" },
      "FI" => { "22" => "AX" },
      "NO" => { "917" => "SJ", "8099" => "SJ" },
      "DK" => { "39" => "GL" },
      "IT" => { "00120" => "VA", "4789" => "SM" },
      "CH" => { "9485" => "LI", "9486" => "LI", "9487" => "LI", "9488" => "LI", "949" => "LI" },
      "US" => { "006" => "PR", "007" => "PR", "009" => "PR", "008" => "VI", "96799" => "AS", "9691" => "GU",
                "9692" => "GU", "96931" => "GU", "96932" => "GU", "96939" => "PW", "96940" => "PW", "96941" => "FM",
                "96942" => "FM", "96943" => "FM", "96944" => "FM", "96950" => "MP", "96951" => "MP", "96952" => "MP",
                "96960" => "MH", "96970" => "MH" },
      "AU" => { "2899" => "NF", "6798" => "CX", "6799" => "CC" },
      "CN" => { "999077" => "HK", "999078" => "MO" },
      "GB" => { "GX" => "GI", "IM" => "IM", "JE" => "JE", "GY" => "GG", "FIQQ" => "FK", "SIQQ" => "GS", "STHL" => "SH",
                "ASCN" => "SH", "TDCU" => "SH", "PCRN" => "PN", "BBND" => "IO", "TKCA" => "TC", "BIQQ" => "AQ" }
    }.freeze
    LENGTHS = BEGINNINGS.transform_values { |list| list.keys.map(&:length).uniq.sort.reverse.freeze }.freeze
    private_constant :BEGINNINGS, :LENGTHS

    class << self
      # @param country [String]
      # @param postcode [Postcode, nil]
      # @return [String, nil] the country in which the postcode lies, nil where it is the address's own
      def of(country, postcode)
        beginnings = BEGINNINGS[country]
        return if beginnings.nil? || postcode.nil?
        return british(beginnings, postcode) if postcode.british

        text = postcode.text
        found = LENGTHS.fetch(country).find { |length| beginnings.key?(text[0, length]) && text.length >= length }
        beginnings[text[0, found]] if found
      end

      # @param country [String]
      # @return [Array<String>] countries that share its postal system
      def beside(country) = BEGINNINGS.fetch(country, {}).values.uniq

      private

      # An area of letters alone, or one of the codes that have no figure in their outward part.
      def british(beginnings, postcode)
        beginnings[postcode.british.area] || beginnings[postcode.text[/\A[A-Z]{4}(?=1ZZ\z)/]]
      end
    end
  end
end
