# frozen_string_literal: true

module GateMile
  # Which of a cart's values counts: after discounts or before; with tax or without; of all lines, of those that ship,
  # or of the ordinary ones. The store's says all three; one of a plan, an offer or a rule may leave some to the store's
  # (nil).
  class Basis < Value.of(:discounts, :tax, :lines)
    CHOICES = { "discounts" => %w[after before], "tax" => %w[with without],
                "lines" => %w[shipping all ordinary] }.freeze

    def initialize(discounts: nil, tax: nil, lines: nil)
      @over = {}.compare_by_identity
      @after = discounts != "before"
      @with_tax = tax == "with"
      super
    end

    # @return [Boolean] whether values count after discounts
    def after? = @after

    # @return [Boolean] whether values count with tax
    def with_tax? = @with_tax

    DEFAULT = new(**CHOICES.to_h { |key, among| [key.to_sym, among.first] })

    # @param whole [Basis] a whole one
    # @return [Basis] this one, with the other's choices where it says nothing: the same object each time
    def over(whole)
      return self if discounts && tax && lines

      @over[whole] ||= whole.with(**to_h.compact)
    end
  end
end
