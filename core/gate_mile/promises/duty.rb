# frozen_string_literal: true

module GateMile
  # What is due at the border, as an estimate.
  #
  # percent: {Percentage}; below: {Money} of goods under which nothing is due, or nil; carriage: whether it also falls
  # on the shipping; included: whether the merchant bears it.
  class Duty < Value.of(:percent, :below, :carriage, :included)
    GOODS = Basis.new(discounts: "after", tax: "without", lines: "shipping")

    # @param goods [Money]
    # @param shipping [Money]
    # @return [Money] none where the goods are worth less than the threshold
    def on(goods, shipping)
      return goods.with_minor(0) if below && goods < below

      percent.of(carriage ? goods + shipping : goods)
    end
  end
end
