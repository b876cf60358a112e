# frozen_string_literal: true

module GateMile
  # A treatment where it sits: level is :variant, :product or :class.
  class Placed < Value.of(:treatment, :level)
  end
end
