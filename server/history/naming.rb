# frozen_string_literal: true

module Server
  # What names a change in the history: which fields, and from what to what where it is one.
  module Naming
    # Their values are codes of the program: such a field is named without them.
    CODES = %w[method_order kind promotions packing holiday_region].freeze

    # @param record [ActiveRecord::Base] just saved
    # @param also [Array<String>] fields that change outside the row
    # @return [Hash{Symbol => String}] fields (comma-separated); from and to where it is one that people can read
    def self.of_update(record, also: [])
      changes = record.saved_changes.except("position", "lock_version", "price_minor", "cost_minor", "weight_ng")
                      .merge(amounts(record))
      fields = changes.keys + also
      # What is encrypted is named and never told.
      secret = record.class.encrypted_attributes.to_a.map(&:to_s)
      return { fields: fields.join(",") } unless fields.one? && changes.any? && !secret.intersect?(changes.keys)

      from, to = changes.values.first.map { |value| text(record, fields.first, value) }
      told = from && to && from != to ? { from: from, to: to } : {}
      { fields: fields.first, **told }
    end

    def self.amounts(record)
      record.saved_changes.slice("price_minor", "cost_minor").to_h do |column, pair|
        money = Records::Store.current.money
        [column.delete_suffix("_minor"), pair.map { |minor| minor && GateMile::Money.new(minor, money).to_s }]
      end
    end

    # @return [String, nil] empty for no value; nil for one that only the program can read
    def self.text(record, field, value)
      return if CODES.include?(field)
      return "" if value.nil?

      referred = record.class.reflect_on_association(field.delete_suffix("_id")) if field.end_with?("_id")
      return referred.klass.find_by(id: value)&.name if referred

      value = value.dig("schedule", "amount") if value.is_a?(Hash)
      value.to_s unless value.nil? || value.is_a?(Array) || value.is_a?(Hash)
    end
    private_class_method :amounts, :text
  end
end
