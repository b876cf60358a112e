# frozen_string_literal: true

module Server
  module Records
    # What a treatment sits on: a product, a variant or a class.
    class TreatmentTarget < Base
      belongs_to :treatment, inverse_of: :targets
      belongs_to :product, optional: true
      belongs_to :shipping_class, optional: true
    end
  end
end
