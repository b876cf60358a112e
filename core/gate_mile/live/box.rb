# frozen_string_literal: true

module GateMile
  # A box that the merchant packs into.
  #
  # size: inner {Sides}; padding: {Length} that is kept free on each side, or nil; outer: {Sides} as carriers measure
  # it, nil for the inner ones; tare: {Weight} of the empty box and its packing, or nil; up_to: {Weight} that it may
  # weigh in all, or nil; cost: {Money} of one box, or nil.
  class Box < Value.of(:id, :name, :active, :size, :padding, :outer, :tare, :up_to, :cost)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Box]
    def self.read(reader, currency)
      size = sides(reader, "size")
      padding = reader.parsed("padding", required: false) { |text| Length.parse(text) }
      narrow = size && padding && size.to_h.values.compact.min_by(&:base)
      reader.problem("padding", :padding_large) if narrow && padding.base * 2 >= narrow.base
      new(id: reader.text("id"), name: reader.text("name", most: 60), active: reader.flag("active", default: true),
          size: size, padding: padding, outer: sides(reader, "outer", required: false),
          **weights(reader), cost: reader.money("cost", currency, required: false))
    end

    def self.sides(reader, key, required: true)
      found = reader.object(key, required: required) or return
      Sides.read(found).tap do |sides|
        sides.to_h.each { |side, length| reader.problem([key, side], :zero) if length&.zero? }
      end
    end

    def self.weights(reader)
      tare, most = %w[tare up_to].map { |key| reader.parsed(key, required: false) { |text| Weight.parse(text) } }
      reader.problem("up_to", :tare_above, tare: tare.to_s) if tare && most && most <= tare
      { tare: tare, up_to: most }
    end
    private_class_method :sides, :weights

    # @return [Array<Integer, Rational>] length, width and height that goods can have in it, in base units
    def room
      free = padding ? padding.base * 2 : 0
      [size.length, size.width, size.height].map { |side| side.base - free }
    end

    # @return [Sides] as carriers measure it
    def outside = outer || size

    # @return [Integer, Rational, nil] what goods in it may weigh, nil for any weight
    def load_limit = up_to && (up_to.base - (tare ? tare.base : 0))

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active, "size" => size.dump, "padding" => padding&.to_s,
        "outer" => outer&.dump, "tare" => tare&.to_s, "up_to" => up_to&.to_s, "cost" => cost&.to_s }.compact
    end
  end
end
