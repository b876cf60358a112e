# frozen_string_literal: true

module GateMile
  # Products that ship alike. treatments: ids of the treatments that sit on it.
  class ShippingClass < Value.of(:id, :name, :description, :treatments)
  end
end
