# frozen_string_literal: true

module GateMile
  # Boxes and parcel policies in JSON.
  module ParcelForms
    WEIGHT = ->(text) { Weight.parse(text) }
    SOME_WEIGHT = ->(text) { Weight.parse(text).tap { |found| raise Malformed, :zero if found.zero? } }

    # @return [Sides, nil] none of which is nothing
    def self.sides(reader, setting, key, required:)
      found = reader.object(key, required: required) or return
      GoodsForms::SIDES.read(found, setting).tap do |sides|
        sides.to_h.each { |side, length| reader.problem([key, side], :zero) if length&.zero? }
      end
    end

    # @return [Hash, nil] for JSON
    def self.sides_document(sides) = sides && GoodsForms::SIDES.write(sides)

    BOX = Form.new(Box) do
      write = ->(sides) { ParcelForms.sides_document(sides) }
      field(:size, write: write) { |reader, setting| ParcelForms.sides(reader, setting, "size", required: true) }
      parsed(:padding) { |text| Length.parse(text) }
      text :id
      text :name, most: 60
      flag :active, default: true
      field(:outer, write: write) { |reader, setting| ParcelForms.sides(reader, setting, "outer", required: false) }
      parsed(:tare, &WEIGHT)
      parsed(:up_to, &WEIGHT)
      money :cost
      check do |reader, box, _|
        narrow = box.size && box.padding && box.size.to_h.values.compact.min_by(&:base)
        reader.problem("padding", :padding_large) if narrow && box.padding.base * 2 >= narrow.base
        reader.problem("up_to", :tare_above, tare: box.tare.to_s) if box.tare && box.up_to && box.up_to <= box.tare
      end
    end

    POLICY = Form.new(ParcelPolicy) do
      kind = ->(reader, wanted) { reader.peek("kind") == wanted }
      sides = ->(found) { ParcelForms.sides_document(found) }
      needed :kind, among: ParcelPolicy::KINDS, symbol: true
      field(:up_to, write: ->(weight) { weight&.to_s }) do |reader, _|
        reader.parsed("up_to", required: false, &SOME_WEIGHT) if kind.call(reader, "one")
      end
      field(:size, write: sides) do |reader, setting|
        reader.object("size")&.then { |item| GoodsForms::SIDES.read(item, setting) } if kind.call(reader, "fixed")
      end
      field(:tare, write: ->(weight) { weight&.to_s }) do |reader, _|
        reader.parsed("tare", required: false, &WEIGHT) if kind.call(reader, "fixed")
      end
      parsed(:divisor, write: ->(value) { value && Decimal.write(value) }) do |text|
        Decimal.parse(text).tap { |found| raise Malformed, :zero unless found.positive? }
      end
      part(read: ->(reader, _) { { per: reader.choice("per", among: ParcelPolicy::PER.keys, default: "kg") } },
           write: ->(policy) { policy.divisor ? { "per" => policy.per } : {} })
      field(:boxes) do |reader, _|
        reader.texts("boxes", most: 200) if kind.call(reader, "boxes") && reader.given?("boxes", read: true)
      end
      parsed(:unit_weight, &SOME_WEIGHT)
      field(:unit_size, write: sides) do |reader, setting|
        ParcelForms.sides(reader, setting, "unit_size", required: false)
      end
    end
  end
end
