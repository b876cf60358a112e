# frozen_string_literal: true

module GateMile
  # A part of the world that a zone covers: the whole world, a country, or chosen regions of a country; the last two
  # perhaps narrowed by postcode clauses.
  #
  # kind: :world, :country or :regions; country: ISO 3166-1 code; regions: codes of {Regions}; only: {Clause}s of which
  # one must match, empty for all; except: {Clause}s of which none may match.
  class Area < Value.of(:kind, :country, :regions, :only, :except)
    KINDS = %w[world country regions].freeze
    MOST_CLAUSES = 200_000
    NONE = [].freeze
    private_constant :NONE

    # @return [Boolean] whether postcodes decide it
    def clauses? = only.any? || except.any?
  end
end
