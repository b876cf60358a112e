# frozen_string_literal: true

module GateMile
  # Puts a method into a zone with a plan.
  #
  # zone, method: ids; name: what the method is called there, nil for its own name; plan: nil while the merchant has
  # not said a price, and then the method is incomplete there, never free; areas: {AreaSets} of one that it is
  # narrowed to inside its zone, or nil; cost: {Plan} of what it costs the merchant, or nil; live: {LiveRate} or nil.
  class Rate < Value.of(:id, :zone, :method, :name, :active, :plan, :areas, :cost, :live)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Rate]
    def self.read(reader, currency)
      new(id: reader.text("id"), zone: reader.text("zone"), method: reader.text("method"),
          name: reader.text("name", required: false), active: reader.flag("active", default: true),
          plan: reader.object("plan", required: false)&.then { |item| Plan.read(item, currency) },
          areas: (areas(reader) if reader.given?("areas", read: true)),
          cost: reader.object("cost", required: false)&.then { |item| Plan.read(item, currency) },
          live: reader.object("live", required: false)&.then { |item| LiveRate.read(item, currency) })
    end

    def self.areas(reader)
      list = reader.list("areas", most: 300) { |item| Area.read(item) }
      AreaSets.new(["inside"], [list]) if list.any?
    end
    private_class_method :areas

    # @return [Hash] for JSON
    def dump
      { "id" => id, "zone" => zone, "method" => method, "name" => name, "active" => active, "plan" => plan&.dump,
        "areas" => areas&.first&.map(&:dump), "cost" => cost&.dump,
        "live" => live&.dump }.compact
    end
  end
end
