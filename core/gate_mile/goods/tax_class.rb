# frozen_string_literal: true

module GateMile
  # A rate of tax under a name: goods have a tax class, or the first of the store's list.
  class TaxClass < Value.of(:id, :name, :rate)
    # @param reader [Reader]
    # @return [TaxClass]
    def self.read(reader)
      new(id: reader.text("id"), name: reader.text("name", most: 60),
          rate: reader.parsed("rate") { |text| rate(text) })
    end

    # @param text [String] percent
    # @return [Percentage]
    # @raise [Malformed] :not_a_percentage, :out_of_percent
    def self.rate(text)
      Percentage.parse(text).tap { |rate| raise Malformed, :out_of_percent unless rate.value.between?(0, 100) }
    end

    # @return [Hash] for JSON
    def dump = { "id" => id, "name" => name, "rate" => rate.to_s }
  end
end
