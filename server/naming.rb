# frozen_string_literal: true

module Server
  # What names a change in the history: which fields, and from what to what where it is one.
  module Naming
    # @param record [ActiveRecord::Base] just saved
    # @param also [Array<String>] fields that change outside the row
    # @return [Hash{Symbol => String}] fields (comma-separated) and, for a single one, from and to
    def self.of_update(record, also: [])
      changes = record.saved_changes.except("position", "lock_version", "price_minor", "weight_ng")
                      .merge(price(record))
      fields = changes.keys + also
      return { fields: fields.join(",") } unless fields.one? && changes.any?

      from, to = changes.values.first.map { |value| text(value) }
      { fields: fields.first, from: from, to: to }
    end

    def self.price(record)
      return {} unless record.has_attribute?("price_minor") && record.saved_change_to_price_minor?

      money = Records::Store.current.money
      { "price" => record.saved_change_to_price_minor.map { |minor| GateMile::Money.new(minor, money).to_s } }
    end

    def self.text(value)
      value = value.dig("schedule", "amount") if value.is_a?(Hash) && value.key?("schedule")
      value.is_a?(Hash) ? "" : value.to_s
    end
    private_class_method :price, :text
  end
end
