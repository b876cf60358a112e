# frozen_string_literal: true

module GateMile
  # A named list of areas that share their rates. A zone that is off takes no address, and keeps its settings.
  class Zone < Value.of(:id, :name, :active, :areas)
    # @param reader [Reader]
    # @return [Zone]
    def self.read(reader)
      new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
          areas: reader.list("areas") { |item| Area.read(item) }.freeze)
    end

    # @return [Hash] for JSON
    def dump = { "id" => id, "name" => name, "active" => active, "areas" => areas.map(&:dump) }
  end
end
