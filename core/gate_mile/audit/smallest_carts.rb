# frozen_string_literal: true

module GateMile
  # Carts for findings that have none of their own: one of the goods that they name, in the zone at which they show.
  class SmallestCarts
    # @param book [Book]
    def initialize(book)
      @book = book
      @samples = ZoneSamples.new(book.zones)
    end

    # @param finding [Finding]
    # @return [Finding] with a cart, where it is about a zone and has neither a cart nor an address
    def on(finding)
      return finding if finding.zone.nil? || finding.cart || finding.example

      address = @samples.of(@book.zone(finding.zone)) or return finding
      finding.with(cart: { "lines" => [line(finding)], "destination" => Documents.write(address) })
    end

    private

    def line(finding)
      named = finding.numbers[:names]&.first || finding.numbers[:name]
      sku = skus[named]
      if sku
        { "sku" => sku,
          "quantity" => 1 }
      else
        { "name" => "Any goods", "quantity" => 1, "unit_price" => "10.00",
          "weight" => "0.5 kg" }
      end
    end

    def skus = @skus ||= Alone.goods(@book).to_h { |article| [article.name, article.sku] }
  end
end
