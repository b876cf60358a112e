# frozen_string_literal: true

module GateMile
  # Products that ship alike. treatments: ids of the treatments that sit on it.
  class ShippingClass < Value.of(:id, :name, :description, :treatments)
    # @param reader [Reader]
    # @return [ShippingClass]
    def self.read(reader)
      new(id: reader.text("id"), name: reader.text("name", most: 60),
          description: reader.text("description", required: false, most: 500),
          treatments: reader.texts("treatments", most: 100))
    end

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "description" => description,
        "treatments" => (treatments if treatments.any?) }.compact
    end
  end
end
