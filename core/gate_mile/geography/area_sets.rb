# frozen_string_literal: true

module GateMile
  # Named sets of areas as the columns of a {Grid}; the first that an address lies in counts, by the same reading as
  # zones.
  class AreaSets
    # @return [Array<String>]
    attr_reader :names
    # @return [Array<Array<Area>>] one list for each name
    attr_reader :lists

    # @param names [Array<String>]
    # @param lists [Array<Array<Area>>]
    def initialize(names, lists)
      @names = names
      @lists = lists
      @zones = Zones.new(lists.each_with_index.map do |areas, at|
        Zone.new(id: at, name: names[at], active: true, areas: areas)
      end)
      freeze
    end

    # @return [Array<Area>] of the first set
    def first = @lists.first

    def size = names.size
    def gauges = []
    def scales = []
    def title(at) = names[at]

    # @return [Integer, Refusal]
    def column(_load, destination) = destination.within(@zones) { |landing| landing.zone.id }

    def ==(other) = other.is_a?(AreaSets) && names == other.names && lists == other.lists
    alias eql? ==
    def hash = [names, lists].hash
  end
end
