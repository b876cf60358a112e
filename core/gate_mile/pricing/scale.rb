# frozen_string_literal: true

module GateMile
  # An ascending list of boundaries from 0 on, each the beginning of a stretch. They belong to the stretch above them
  # ("from": at least) or to the one below ("up_to": at most).
  class Scale < Value.of(:gauge, :edges, :boundaries)
    EDGES = %w[from up_to].freeze

    def initialize(boundaries: [], edges: nil, **)
      # Where each stretch after the first begins.
      @starts = boundaries.drop(1).map { |boundary| boundary&.base }.freeze
      @from = edges == "from"
      super
    end

    # @param number [Integer, Rational]
    # @return [Integer] which stretch it lies in
    def find(number)
      after = if @from
                @starts.bsearch_index { |start| start > number }
              else
                @starts.bsearch_index do |start|
                  start >= number
                end
              end
      after || @starts.size
    end

    # @return [Array<Numeric>] where it changes from one stretch to the next
    def breaks(_upto) = boundaries.map(&:base)

    # @param at [Integer]
    # @return [Boundary, nil] where the stretch ends, nil where it is the last
    def finish(at) = boundaries[at + 1]

    # As the columns of a {Grid}.
    # @return [Integer]
    def size = boundaries.size

    # @return [Array<Gauge>]
    def gauges = [gauge]

    # @return [Array<Scale>]
    def scales = [self]

    # @param at [Integer]
    # @return [String] what a column is called
    def title(at) = "#{gauge.name} #{boundaries[at].text}"

    # @param load [Load]
    # @return [Integer, Refusal]
    def column(load, _place)
      number = load.by(gauge)
      number ? find(number) : load.missing(gauge)
    end
  end
end
