# frozen_string_literal: true

module GateMile
  # What a list of lines comes to, as it is told.
  #
  # value: {Money} by the store's basis; weight: {Weight} in the store's unit, or nil where one of them has none;
  # quantity: units; longest: {Length}, the longest side of any unit whose size is known, or nil; unweighed, unsized:
  # what the lines without a weight, without a size are called.
  class Measures < Value.of(:lines, :value, :weight, :quantity, :longest, :unweighed, :unsized)
    # @param lot [Lot]
    # @param worth [Lot] of the lines whose value counts
    # @param store [Store]
    # @return [Measures]
    def self.of(lot, worth, store)
      weight = lot.weight
      new(lines: lot.lines.size, value: Money.new(worth.value(store.basis), store.currency),
          weight: weight && Weight.new(Decimal.simplify(weight), store.weight_unit), quantity: lot.quantity,
          longest: lot.lines.filter_map(&:longest).max_by(&:base),
          unweighed: lot.lines.reject(&:unit_weight).map(&:code), unsized: lot.lines.reject(&:size).map(&:code))
    end
  end
end
