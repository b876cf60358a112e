# frozen_string_literal: true

module Server
  module Records
    # A rate of tax under a name.
    class TaxClass < Base
      says :name, :rate

      words :name, most: 60
      unlike_others :name, "tax class has this name"
      validate { check(:rate) { self.rate = GateMile::TaxClass.rate(rate.to_s).to_s } }

      before_destroy { Product.where(tax_class_id: id).find_each { |product| product.update!(tax_class_id: nil) } }

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }
    end
  end
end
