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
      region = region_of(address)
      postcode = Postcode.of(country, address.postcode)
      other = Territories.country_of(country, region) || dependency(country, postcode)
      return new(country: other, postcode: Postcode.of(other, address.postcode)) if other

      new(country: country, regions: region && Regions.chain(country, region), postcode: postcode)
    end

    # What the address says that is not quite right, or of a special kind. It is matched all the same.
    # @param address [Address] the one it was made of
    # @return [Array<Symbol>] of {REMARKS}
    def remarks(address)
      [(:unknown_region if address.region && Regions.find(address.country, address.region).nil?),
       (:region_against_postcode if Place.contradicts?(address)),
       *postcode_remarks, (:po_box if address.po_box?), (:military_mail if address.military?)].compact
    end

    REMARKS = %i[unknown_region region_against_postcode malformed_postcode unfinished_postcode lost_zero po_box
                 military_mail].freeze

    # The region that an address says, or the one that its postcode lies in; where one lies in the other, the inner one.
    # @param address [Address] with a country
    # @return [String, nil] nil where neither is known, and where they contradict each other: nobody guesses then
    def self.region_of(address)
      said, found = regions_of(address)
      return said || found if said.nil? || found.nil?

      inner = [said, found].max_by { |code| Regions.chain(address.country, code).size }
      inner if Regions.chain(address.country, inner).include?(inner == said ? found : said)
    end

    # @param address [Address]
    # @return [Boolean] whether region and postcode can't both be right
    def self.contradicts?(address)
      return false if address.country.nil?

      regions_of(address).none?(&:nil?) && region_of(address).nil?
    end

    # @return [Array(String, String)] what the address says, and what its postcode says; nil each where it says nothing
    def self.regions_of(address)
      [Regions.find(address.country, address.region), PostalRegions.of(address.country, address.postcode)]
    end

    # A British address on Man or in the Channel Islands.
    def self.dependency(country, postcode)
      return unless country == "GB" && postcode

      Territories::BY_POSTCODE[postcode.british.area]
    end
    private_class_method :regions_of, :dependency

    private

    def postcode_remarks
      return [] if postcode.nil?

      { malformed_postcode: postcode.malformed?, unfinished_postcode: postcode.unfinished?,
        lost_zero: postcode.lost_zero? }.select { |_, so| so }.keys
    end
  end
end
