# frozen_string_literal: true

module Server
  # The one place that turns records into a book: first into its JSON document, then into the compiled value, so that
  # a quote from the database and one from an exported file can't differ.
  module BookDocument
    # @return [Hash] the whole setup (docs/formats/book.schema.json)
    def self.read
      store = Records::Store.current
      zones = Records::Zone.order(:position, :id).includes(:areas).to_a
      place = zones.each_with_index.to_h { |zone, index| [zone.id, index] }
      rates = Records::Rate.order(:position, :id).sort_by.with_index { |rate, index| [place[rate.zone_id], index] }
      { "format" => GateMile::Book::FORMAT, "version" => GateMile::Book::VERSION, "store" => store.document,
        "products" => Records::Product.order(:position, :id).map { |product| product.document(store.money).compact },
        "zones" => zones.map(&:document),
        "methods" => Records::ShippingMethod.order(:position, :id).map { |method| method.document.compact },
        "rates" => rates.map { |rate| rate.document.compact } }
    end
  end
end
