# frozen_string_literal: true

module GateMile
  # A rate of tax under a name: goods have a tax class, or the first of the store's list.
  class TaxClass < Value.of(:id, :name, :rate)
    # @param text [String] percent
    # @return [Percentage]
    # @raise [Malformed] :not_a_percentage, :out_of_percent
    def self.rate(text)
      Percentage.parse(text).tap { |rate| raise Malformed, :out_of_percent unless rate.value.between?(0, 100) }
    end
  end
end
