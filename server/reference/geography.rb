# frozen_string_literal: true

require "countries"

module Server
  # Names and groups of places for the forms, from the standards; the core knows only codes.
  module Geography
    MILITARY = { "AA" => "Armed Forces Americas", "AE" => "Armed Forces Europe", "AP" => "Armed Forces Pacific" }.freeze

    class << self
      # @return [Hash] the Geography of the contract
      def all
        @all ||= { groups: groups, numbers: numbers, regions: regions, forms: forms,
                   territories: GateMile::Countries::CODES.to_h { |code| [code, GateMile::Territories.of(code)] }
                                                          .reject { |_, list| list.empty? } }
      end

      private

      # ISO 3166-1 numeric codes, by which outlines on maps are known.
      def numbers = GateMile::Countries::CODES.to_h { |code| [ISO3166::Country[code].number, code] }

      # Starting selections: what is chosen becomes plain countries.
      def groups
        list = GateMile::Countries::CODES.map { |code| ISO3166::Country[code] }
        [["European Union", list.select(&:in_eu?)], ["European Economic Area", list.select(&:in_eea?)],
         *list.group_by(&:continent).sort].map { |name, found| { name: name, countries: found.map(&:alpha2).sort } }
      end

      def regions
        GateMile::Countries::CODES.to_h { |code| [code, of_country(code)] }.reject { |_, list| list.empty? }
      end

      def of_country(country)
        known = Subdivisions.of(country)
        GateMile::Regions.of(country).map do |code|
          name, kind = known[code]
          { code: code, name: name || MILITARY.fetch(code), type: type(country, code, kind),
            within: GateMile::Regions.chain(country, code)[1] }
        end.sort_by { |region| region[:name].unicode_normalize(:nfkd) }
      end

      def type(country, code, kind)
        return "military mail" if country == "US" && MILITARY.key?(code)

        (kind || "region").tr("_", " ")
      end

      # Made-up examples, of the right form and nothing more.
      def forms
        british = GateMile::Territories::BY_POSTCODE.to_h { |letters, code| [code, "#{letters}29 4ZZ"] }
        GateMile::Postcode::FORMS.transform_values { |form| form.gsub("#", "0").gsub("@", "A").gsub("*", "0") }
                                 .merge(british, "GB" => "TR29 4ZZ")
      end
    end
  end
end
