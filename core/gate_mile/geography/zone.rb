# frozen_string_literal: true

module GateMile
  # A named list of areas that share their rates. A zone that is off takes no address, and keeps its settings.
  # nothing_text: the merchant's words to a shopper where nothing is available there, or nil for the store's.
  class Zone < Value.of(:id, :name, :active, :areas, :nothing_text)
    # @param reader [Reader]
    # @return [Zone]
    def self.read(reader)
      new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
          areas: reader.list("areas") { |item| Area.read(item) }.freeze,
          nothing_text: reader.text("nothing_text", required: false, most: 500))
    end

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active, "areas" => areas.map(&:dump), "nothing_text" => nothing_text }
        .compact
    end
  end
end
