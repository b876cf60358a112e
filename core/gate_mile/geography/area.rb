# frozen_string_literal: true

module GateMile
  # A part of the world that a zone covers: a whole country, or the whole world.
  #
  # kind: :country or :world; country: its code, nil for the world.
  class Area < Value.of(:kind, :country)
    KINDS = %w[country world].freeze

    # @param reader [Reader]
    # @return [Area]
    def self.read(reader)
      kind = reader.choice("kind", among: KINDS)
      country = reader.parsed("country") { |text| Countries.parse(text) } if kind == "country"
      new(kind: kind&.to_sym, country: country)
    end

    # @return [Hash] for JSON
    def dump = { "kind" => kind.to_s, "country" => country }.compact
  end
end
