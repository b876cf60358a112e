# frozen_string_literal: true

module GateMile
  # One area of one zone as it stands against a country: entries are what zones are compared by.
  #
  # at: its number among the country's entries; zone, area; regions: those it needs (nil for all), without the ones that
  # are countries of their own; outer: those that these lie in; level: how specific it is.
  class Entry < Value.of(:at, :zone, :area, :regions, :outer, :level)
    # From the most specific to the least: a matched "only" clause with a region, one without, a region, a country, the
    # world.
    LEVELS = %i[clause_in_region clause region country world].freeze

    # @return [Integer] 0 is the most specific
    def rank = LEVELS.index(level)
  end
end
