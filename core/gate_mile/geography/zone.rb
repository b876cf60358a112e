# frozen_string_literal: true

module GateMile
  # A named list of areas that share their rates. A zone that is off takes no address, and keeps its settings.
  # nothing_text: the merchant's words to a shopper where nothing is available there, or nil for the store's; duty:
  # {Duty} or nil.
  class Zone < Value.of(:id, :name, :active, :areas, :nothing_text, :duty)
    # @param reader [Reader]
    # @param currency [Currency, nil]
    # @return [Zone]
    def self.read(reader, currency = nil)
      new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
          areas: reader.list("areas") { |item| Area.read(item) }.freeze,
          nothing_text: reader.text("nothing_text", required: false, most: 500),
          duty: reader.object("duty", required: false)&.then { |item| Duty.read(item, currency) })
    end

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active, "areas" => areas.map(&:dump), "nothing_text" => nothing_text,
        "duty" => duty&.dump }.compact
    end
  end
end
