# frozen_string_literal: true

module GateMile
  # One step of {Steps}: an amount, perhaps an amount for each started increment above the step's start, perhaps a
  # percentage of the load's value; or not available.
  #
  # amount: {Money}, nil where it is not available; each, increment: {Money} and {Boundary}, or nil; percent:
  # {Percentage}.
  class Step < Value.of(:amount, :each, :increment, :percent)
    # @return [Boolean]
    def closed? = amount.nil?

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [Step]
    def map_amounts(pointer)
      with(amount: amount && yield(amount, "#{pointer}/amount"), each: each && yield(each, "#{pointer}/each"))
    end

    # @return [Boolean] whether a percentage has a part in its price
    def relative? = !percent.nil? && !percent.value.zero?
  end
end
