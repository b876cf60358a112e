# frozen_string_literal: true

module GateMile
  # A code that a shopper types. note: the merchant's own; period: {Period} in which it is taken.
  class Coupon < Value.of(:id, :code, :note, :active, :period)
    # @param reader [Reader]
    # @param time_zone [String]
    # @return [Coupon]
    def self.read(reader, time_zone)
      new(id: reader.text("id"), code: reader.text("code", most: 60),
          note: reader.text("note", required: false), active: reader.flag("active", default: true),
          period: Period.read(reader, time_zone))
    end

    # @return [Hash] for JSON
    def dump = { "id" => id, "code" => code, "note" => note, "active" => active, **period.dump }.compact
  end
end
