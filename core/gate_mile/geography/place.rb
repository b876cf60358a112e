# frozen_string_literal: true

module GateMile
  # An address as it is compared with zones: a place that has two spellings brought to its country code, its region with
  # all that it lies in, its postcode cut into levels.
  #
  # country: nil where it is not known; regions: the region's chain, nil where it is not known, or where the postcode
  # says another one than the address; postcode: {Postcode} or nil.
  class Place < Value.of(:country, :regions, :postcode)
    # @param address [Address]
    # @return [Place]
    def self.of(address)
      country = address.country or return new
      postcode = postcode_of(address)
      region = region_of(address, postcode)
      other = Territories.country_of(country, region) || OwnCountries.of(country, postcode)
      return new(country: other, postcode: Postcode.of(other, address.postcode)) if other

      new(country: country, regions: region && Regions.chain(country, region), postcode: postcode)
    end

    # What the address says that is not quite right, or of a special kind. It is matched all the same.
    # @param address [Address] the one it was made of
    # @return [Array<Symbol>] of {REMARKS}
    def remarks(address)
      [*place_remarks(address), *postcode_remarks, (:po_box if address.po_box?),
       (:military_mail if address.military?)].compact
    end

    REMARKS = %i[unknown_region region_against_postcode own_country malformed_postcode unfinished_postcode lost_zero
                 po_box military_mail].freeze

    class << self
      # @param address [Address]
      # @return [Boolean] whether region and postcode can't both be right
      def contradicts?(address)
        return false if address.country.nil?

        postcode = postcode_of(address)
        regions_of(address, postcode).none?(&:nil?) && region_of(address, postcode).nil?
      end

      private

      # A postcode that is one digit short has lost a zero in front, unless the region says that it is a beginning.
      # @return [Postcode, nil]
      def postcode_of(address)
        found = Postcode.of(address.country, address.postcode)
        return found unless found&.lost_zero? && address.region && region_of(address, found).nil?

        begun = Postcode.of(address.country, address.postcode, restoring: false)
        PostalRegions.of(address.country, begun) && region_of(address, begun) ? begun : found
      end

      # The region that an address says, or the one that its postcode lies in; where one lies in the other, the inner
      # one.
      # @return [String, nil] nil where neither is known, and where they contradict each other: nobody guesses then
      def region_of(address, postcode)
        said, found = regions_of(address, postcode)
        return said || found if said.nil? || found.nil?

        inner = [said, found].max_by { |code| Regions.chain(address.country, code).size }
        inner if Regions.chain(address.country, inner).include?(inner == said ? found : said)
      end

      # @return [Array(String, String)] what the address says, and what its postcode says; nil where that is nothing
      def regions_of(address, postcode)
        [Regions.find(address.country, address.region), PostalRegions.of(address.country, postcode)]
      end
    end

    private

    def place_remarks(address)
      return [] if address.country.nil?

      [(:unknown_region if address.region && Regions.find(address.country, address.region).nil?),
       (:region_against_postcode if Place.contradicts?(address)), (:own_country if elsewhere?(address))].compact
    end

    # Whether its postcode lies in another country than the one it names.
    def elsewhere?(address)
      country != address.country &&
        OwnCountries.of(address.country, Postcode.of(address.country, address.postcode)) == country
    end

    def postcode_remarks
      return [] if postcode.nil?

      { malformed_postcode: postcode.malformed?, unfinished_postcode: postcode.unfinished?,
        lost_zero: postcode.lost_zero? }.select { |_, so| so }.keys
    end
  end
end
