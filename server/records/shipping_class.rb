# frozen_string_literal: true

module Server
  module Records
    # Products that ship alike.
    class ShippingClass < Base
      says :name, :description

      has_many :targets, -> { order(:id) }, class_name: "TreatmentTarget", dependent: :destroy
      has_many :products, dependent: nil

      words :name, most: 60
      words :description, most: 500, required: false
      unlike_others :name, "class has this name"

      # Set before it goes: where its products go, nil for no class.
      attr_accessor :heir

      before_destroy(prepend: true) do
        products.each { |product| product.update!(shipping_class_id: heir) }
        Rate.forget_class(id)
        [Offer, Rule].each { |model| model.forget("class", id) }
      end

      # @return [Hash] as in a book document
      def document
        { "id" => id, **said, "treatments" => targets.map(&:treatment_id).presence }.compact
      end
    end
  end
end
