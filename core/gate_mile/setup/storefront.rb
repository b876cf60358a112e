# frozen_string_literal: true

module GateMile
  # The shop's own pages. open: whether any may ask for mileposts; origins: those that may, e.g. "https://shop.example";
  # page: address of the page on which carts are tried, or nil; parts: {ShopParts}, how what stands there behaves.
  class Storefront < Value.of(:open, :origins, :page, :parts)
    ORIGIN = %r{\Ahttps?://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?\z}
    PAGE = %r{\Ahttps?://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?(/[^\s"<>#]*)?\z}i
    private_constant :ORIGIN, :PAGE

    CLOSED = new(open: false, origins: [].freeze, page: nil, parts: ShopParts::USUAL)

    # @param text [String]
    # @return [String, nil] as a browser writes it; nil for what is no origin
    def self.origin(text) = text.strip.downcase.delete_suffix("/").then { |plain| plain if plain.match?(ORIGIN) }

    # @param text [String]
    # @return [Boolean] whether it is the address of a page, without a fragment
    def self.page?(text) = text.match?(PAGE)

    # @param origin [String, nil] of a request
    # @return [Boolean]
    def lets?(origin) = open && !origin.nil? && origins.include?(origin.downcase)
  end
end
