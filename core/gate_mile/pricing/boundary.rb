# frozen_string_literal: true

module GateMile
  # A point on a scale with its exact number. text: as it was written, its unit as the core writes it.
  class Boundary < Value.of(:base, :text)
    # @param gauge [Gauge]
    # @param text [Object]
    # @return [Boundary]
    # @raise [Malformed]
    def self.parse(gauge, text)
      base, written = gauge.read(text)
      new(base: base, text: written)
    end

    def to_s = text
  end

  # An ascending list of boundaries from 0 on, each the beginning of a stretch. They belong to the stretch above them
  # ("from": at least) or to the one below ("up_to": at most).
  class Scale < Value.of(:gauge, :edges, :boundaries)
    EDGES = %w[from up_to].freeze

    # @param reader [Reader] of an object with `measure` and `edges`
    # @param currency [Currency]
    # @param places [Array<Array(Reader, String)>] where each boundary stands: a reader and its key
    # @return [Scale, nil] nil where the measure is not known
    def self.read(reader, currency, places)
      name = reader.choice("measure", among: Gauge::ALL)
      edges = reader.choice("edges", among: EDGES, default: name ? Gauge::KINDS[name].last : "from")
      return if name.nil?

      gauge = Gauge.new(name, currency)
      boundaries = places.map { |item, key| item.parsed(key) { |text| Boundary.parse(gauge, text) } }
      in_order(places, boundaries)
      new(gauge: gauge, edges: edges, boundaries: boundaries)
    end

    def self.in_order(places, boundaries)
      places.each_with_index do |(item, key), at|
        now = boundaries[at] or next
        next item.problem(key, :scale_first) if at.zero? && !now.base.zero?

        before = at.positive? ? boundaries[at - 1] : nil
        next if before.nil? || now.base > before.base

        item.problem(key, now.base == before.base ? :edge_twice : :edge_order, last: before.text)
      end
    end
    private_class_method :in_order

    # @param number [Integer, Rational]
    # @return [Integer] which stretch it lies in
    def find(number)
      after = boundaries.bsearch_index do |boundary|
        edges == "from" ? boundary.base > number : boundary.base >= number
      end
      [(after || boundaries.size) - 1, 0].max
    end

    # @return [Array<Numeric>] where it changes from one stretch to the next
    def breaks(_upto) = boundaries.map(&:base)

    # @param at [Integer]
    # @return [Boundary, nil] where the stretch ends, nil where it is the last
    def finish(at) = boundaries[at + 1]

    # @return [Hash] for JSON, without the boundaries
    def dump = { "measure" => gauge.name, "edges" => edges }
  end
end
