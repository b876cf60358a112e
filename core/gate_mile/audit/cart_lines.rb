# frozen_string_literal: true

module GateMile
  # Lines of made-up goods that meet every edge of a rate's plan, and every class: what they cost, weigh and measure is
  # as ordinary as the edges allow.
  module CartLines
    USUAL = { "name" => "Any goods", "quantity" => 1, "unit_price" => "10.00", "weight" => "0.5 kg" }.freeze
    # Edges of one scale that are met.
    EDGES = 60
    UNITS = 100_000
    private_constant :USUAL, :EDGES, :UNITS

    class << self
      # @param book [Book]
      # @param rate [Rate, nil]
      # @return [Enumerator::Lazy<Hash>] lines of cart documents
      def of(book, rate)
        plan = rate&.plan
        lines = [{}, { "quantity" => 2 }]
        lines += at_edges(plan.schedules.compact.flat_map(&:scales), book) if plan
        groups = [nil, *book.classes.map(&:name)]
        lines.lazy.flat_map { |line| groups.map { |group| { **USUAL, **line, **{ "class" => group }.compact } } }
      end

      private

      # A table has two scales: every edge of one with every edge of the other.
      def at_edges(scales, book)
        first, second = scales.map { |scale| scale.respond_to?(:gauge) ? edges(scale, book) : [] }.reject(&:empty?)
        return first.to_a if second.nil?

        first.product(second).map { |one, other| one.merge(other) } + first + second
      end

      def edges(scale, book)
        gauge = scale.gauge
        bases = scale.breaks(0).uniq.first(EDGES)
        bases.flat_map do |base|
          [base, base + gauge.hair]
        end.filter_map do |base|
          line(gauge, base, book) if base.positive?
        end
      end

      def line(gauge, base, book)
        case gauge.name
        when "value" then { "unit_price" => Money.new(base, book.currency).to_s }
        when "quantity" then { "quantity" => base } if base.between?(1, UNITS)
        when "weight", "billable_weight" then { "weight" => gauge.write(base, book.store.weight_unit) }
        when "longest" then { "size" => size(gauge.write(base, book.store.length_unit)) }
        end
      end

      def size(longest) = { "length" => longest, "width" => "1 cm", "height" => "1 cm" }
    end
  end
end
