# frozen_string_literal: true

module GateMile
  # Addresses of a zone on both sides of the borders that areas draw in it.
  module PlaceSamples
    # Addresses, at most.
    MOST = 40
    private_constant :MOST

    class << self
      # @param book [Book]
      # @param zone [Zone]
      # @param areas [Array<Area>]
      # @return [Array<Address>] those that land in the zone
      def of(book, zone, areas)
        found = areas.reject { |area| area.kind == :world }.uniq.flat_map { |area| addresses(book, area) }
        found.uniq.select { |address| book.zones.land(address).zone.equal?(zone) }.first(MOST)
      end

      private

      def addresses(book, area)
        country = area.country
        codes = [Samples.unnamed(book.zones.coverage(country)), *borders(area)].uniq
        codes.map { |code| Address.new(country: country, postcode: code&.text, lines: []) } +
          area.regions.to_a.first(MOST).map { |region| Address.new(country: country, region: region, lines: []) }
      end

      def borders(area)
        (area.only + area.except).first(MOST).flat_map do |clause|
          [*Samples.of(clause, area.country), Samples.behind(clause, area.country)]
        end
      end
    end
  end
end
