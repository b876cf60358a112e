# frozen_string_literal: true

module GateMile
  # Customers that the shop tells apart, e.g. trade. A cart names one by its name, or none.
  class CustomerGroup < Value.of(:id, :name)
    # @param reader [Reader]
    # @return [CustomerGroup]
    def self.read(reader) = new(id: reader.text("id"), name: reader.text("name", most: 60))

    # @return [Hash] for JSON
    def dump = { "id" => id, "name" => name }
  end
end
