# frozen_string_literal: true

module GateMile
  # What a quote looked at, as far as an edit could touch it.
  #
  # zones: ids of the zones that it is, or may be, in; country: of the address, or nil; skus: of the lines, folded;
  # classes, treatments: ids of those that reach a line; priced: whether rates were looked at.
  class Looked < Value.of(:zones, :country, :skus, :classes, :treatments, :priced)
    # @param quote [Quote]
    # @param cart [Cart]
    # @return [Looked]
    def self.at(quote, cart)
      landing = quote.landing
      zones = landing.nil? ? [] : [landing.zone, *landing.candidates].compact.map(&:id)
      new(zones: zones, country: landing&.place&.country,
          skus: cart.lines.filter_map(&:sku).map do |sku|
            Product.fold(sku)
          end.uniq, classes: quote.lines.filter_map(&:shipping_class).uniq,
          treatments: quote.lines.flat_map { |line| line.treatments.map { |one| one.treatment.id } }.uniq,
          priced: quote.method_quotes.any?)
    end
  end
end
