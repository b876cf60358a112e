# frozen_string_literal: true

module Server
  # What names a change in the history: which fields, and from what to what where it is one.
  module Naming
    # @param record [ActiveRecord::Base] just saved
    # @param also [Array<String>] fields that change outside the row
    # @return [Hash{Symbol => String}] fields (comma-separated) and, for a single one, from and to
    def self.of_update(record, also: [])
      changes = record.saved_changes.except("position", "lock_version", "price_minor", "cost_minor", "weight_ng")
                      .merge(amounts(record))
      fields = changes.keys + also
      # What is encrypted is named and never told.
      secret = record.class.encrypted_attributes.to_a.map(&:to_s)
      return { fields: fields.join(",") } unless fields.one? && changes.any? && !secret.intersect?(changes.keys)

      from, to = changes.values.first.map { |value| text(value) }
      { fields: fields.first, from: from, to: to }
    end

    def self.amounts(record)
      record.saved_changes.slice("price_minor", "cost_minor").to_h do |column, pair|
        money = Records::Store.current.money
        [column.delete_suffix("_minor"), pair.map { |minor| minor && GateMile::Money.new(minor, money).to_s }]
      end
    end

    def self.text(value)
      value = value.dig("schedule", "amount") if value.is_a?(Hash) && value.key?("schedule")
      value.is_a?(Hash) ? "" : value.to_s
    end
    private_class_method :amounts, :text
  end
end
