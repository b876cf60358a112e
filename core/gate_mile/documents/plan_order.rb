# frozen_string_literal: true

module GateMile
  # Puts the steps of a plan document in the order of their edges, and the rows and columns of its grids. What can't be
  # read stays where it is, for its problem to be told there.
  class PlanOrder
    # What sorting mends.
    MENDED = %i[edge_order scale_first].freeze
    private_constant :MENDED

    class << self
      # @param plan [Hash] a plan document
      # @param currency [Currency]
      # @return [Hash] another one, or the same where all is in order
      def of(plan, currency) = new(currency).plan(plan)

      # @param document [Hash] a plan document, its edges in any order
      # @param currency [Currency]
      # @return [Plan]
      # @raise [Invalid] problems at the places where they stand in the document
      def parse(document, currency)
        Documents.parse(Plan, document, currency)
      rescue Invalid => e
        mended, others = e.problems.partition { |problem| MENDED.include?(problem.code) }
        raise if mended.none? { |problem| problem.code == :edge_order }
        raise Invalid, others if others.any?

        sorted(document, currency) or raise
      end

      private

      def sorted(document, currency)
        Documents.parse(Plan, of(document, currency), currency)
      rescue Invalid
        nil
      end
    end

    # @param currency [Currency]
    def initialize(currency)
      @currency = currency
    end

    # @param plan [Hash]
    # @return [Hash]
    def plan(plan)
      return plan unless plan.is_a?(Hash)

      plan.to_h do |key, part|
        next [key, schedule(part)] if key == "schedule"
        next [key, price(part)] if key == "others"

        [key, key == "classes" && part.is_a?(Array) ? part.map { |item| price(item) } : part]
      end
    end

    private

    def price(item) = item.is_a?(Hash) && item["schedule"] ? item.merge("schedule" => schedule(item["schedule"])) : item

    def schedule(schedule)
      return schedule unless schedule.is_a?(Hash)

      case schedule["kind"]
      when "steps" then steps(schedule)
      when "grid" then columns(rows(schedule))
      else schedule
      end
    end

    def steps(schedule)
      list = schedule["steps"]
      return schedule unless list.is_a?(Array) && list.all?(Hash)

      places = places(schedule["measure"], list.map { |step| step["at"] })
      places ? schedule.merge("steps" => list.values_at(*places)) : schedule
    end

    def rows(grid)
      places = scale(grid["rows"]) or return grid
      cells = grid["cells"]
      return grid unless cells.is_a?(Array) && cells.size == places.size

      grid.merge("rows" => ordered(grid["rows"], places), "cells" => cells.values_at(*places))
    end

    def columns(grid)
      places = scale(grid["columns"]) or return grid
      cells = grid["cells"]
      return grid unless cells.is_a?(Array) && cells.all? { |row| row.is_a?(Array) && row.size == places.size }

      grid.merge("columns" => ordered(grid["columns"], places), "cells" => cells.map { |row| row.values_at(*places) })
    end

    def scale(axis)
      places(axis["measure"], axis["at"]) if axis.is_a?(Hash) && axis["at"].is_a?(Array)
    end

    def ordered(axis, places) = axis.merge("at" => axis["at"].values_at(*places))

    # @return [Array<Integer>, nil] the order, nil where something is no edge
    def places(measure, edges)
      return unless Gauge::ALL.include?(measure)

      gauge = Gauge.new(measure, @currency)
      bases = edges.map { |edge| gauge.parse(edge) }
      bases.each_index.sort_by { |at| [bases[at], at] }
    rescue Malformed
      nil
    end
  end
end
