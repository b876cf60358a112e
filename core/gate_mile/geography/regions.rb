# frozen_string_literal: true

module GateMile
  # The regions of ISO 3166-2, by country. A region covers the regions nested in it. To the standard's list come the
  # three regions of United States military mail, AA, AE and AP.
  module Regions
    MILITARY = %w[AA AE AP].freeze
    # The 50 states and the District of Columbia are these without: the outlying areas and the military regions.
    US_OUTLYING = %w[AS GU MP PR UM VI].freeze

    class << self
      # @param country [String] ISO 3166-1 code
      # @return [Array<String>] codes without the country's prefix, e.g. "CON"; empty where the standard has none
      def of(country) = table(country).keys

      # @param country [String]
      # @param text [String, nil] a code with or without the country's prefix, in any case
      # @return [String, nil] the code, or a territory's other spelling; nil where the country has no such region
      def find(country, text)
        return if text.nil?

        code = text.to_s.strip.upcase.delete_prefix("#{country}-")
        code if table(country).key?(code) || Territories.country_of(country, code)
      end

      # @param country [String]
      # @param code [String]
      # @return [String] the same
      # @raise [Malformed] :unknown_region
      def parse(country, code)
        find(country, code.is_a?(String) ? code : nil) or raise Malformed.new(:unknown_region, country: country)
      end

      # @param country [String]
      # @param code [String]
      # @return [Array<String>] the region and the regions that it lies in, from the inside out
      def chain(country, code)
        found = [code]
        found << table(country)[found.last] while table(country)[found.last]
        found
      end

      # @param country [String]
      # @return [Array<String>] the outermost regions
      def outermost(country) = table(country).select { |_, parent| parent.nil? }.keys

      # @param country [String]
      # @param code [String]
      # @return [Array<String>] the regions directly nested in it
      def nested(country, code) = table(country).select { |_, parent| parent == code }.keys

      private

      # region => the region it is nested in, or nil
      def table(country) = TABLES.fetch(country, EMPTY)

      def unpack
        RegionCodes::PACKED.gsub(/\n  +/, " ").lines.to_h do |line|
          country, rest = line.split(":", 2)
          [country, nesting(rest)]
        end
      end

      def nesting(text)
        inside = []
        text.scan(/[A-Z0-9]+\(?|\)/).each_with_object({}) do |word, found|
          next inside.pop if word == ")"

          code = word.delete_suffix("(")
          found[code] = inside.last
          inside << code if word.end_with?("(")
        end
      end
    end

    EMPTY = {}.freeze
    TABLES = unpack.tap { |tables| tables["US"].merge!(MILITARY.to_h { |code| [code, nil] }) }.freeze
    private_constant :EMPTY, :TABLES
  end
end
