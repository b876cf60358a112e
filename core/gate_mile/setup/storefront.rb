# frozen_string_literal: true

module GateMile
  # Which shops' pages may ask for mileposts. open: whether any may; origins: e.g. "https://shop.example".
  class Storefront < Value.of(:open, :origins)
    ORIGIN = %r{\Ahttps?://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?\z}
    private_constant :ORIGIN

    CLOSED = new(open: false, origins: [].freeze)

    # @param text [String]
    # @return [String, nil] as a browser writes it; nil for what is no origin
    def self.origin(text) = text.strip.downcase.delete_suffix("/").then { |plain| plain if plain.match?(ORIGIN) }

    # @param origin [String, nil] of a request
    # @return [Boolean]
    def lets?(origin) = open && !origin.nil? && origins.include?(origin.downcase)
  end
end
