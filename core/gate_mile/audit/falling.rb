# frozen_string_literal: true

module GateMile
  # Where a schedule takes less for more: a step or a row that begins below what the one before it ends with. Along a
  # value that is no slip (dear orders ship for less), and a share of the value can't be told from a table.
  class Falling
    # gauge: {Gauge}; at: {Boundary} at which it falls; before, after: {Money} on both sides of it.
    Fall = Struct.new(:gauge, :at, :before, :after)

    # @param schedule [Steps, Grid, Object]
    def initialize(schedule)
      @schedule = schedule
    end

    # @return [Fall, nil] the first one
    def first
      case @schedule
      when Steps then steps
      when Grid then rows || columns
      end
    end

    private

    def slip?(scale) = scale.is_a?(Scale) && scale.gauge.name != "value"

    def steps
      return unless slip?(@schedule.scale)

      open = @schedule.steps.each_index.reject { |at| @schedule.steps[at].closed? }
      open.each_cons(2) do |last, at|
        next if [last, at].any? { |one| @schedule.steps[one].relative? }

        before = finish(last)
        after = start(at)
        return Fall.new(@schedule.scale.gauge, @schedule.scale.boundaries[at], before, after) if after < before
      end
      nil
    end

    # What a step comes to at its end.
    def finish(at)
      step = @schedule.steps[at]
      return step.amount if step.each.nil?

      scale = @schedule.scale
      reach = scale.finish(at).base - scale.boundaries[at].base
      reach -= scale.gauge.hair unless scale.edges == "up_to"
      step.amount + (step.each * (Rational(reach) / step.increment.base).ceil)
    end

    # What it comes to right where it begins: what lies above an edge that belongs to the step before starts the first
    # increment.
    def start(at)
      step = @schedule.steps[at]
      step.each && @schedule.scale.edges == "up_to" ? step.amount + step.each : step.amount
    end

    def rows = slip?(@schedule.rows) ? along(@schedule.rows, @schedule.cells.transpose) : nil
    def columns = slip?(@schedule.columns) ? along(@schedule.columns, @schedule.cells) : nil

    # @param lines [Array<Array>] cells along the scale
    def along(scale, lines)
      found = lines.flat_map do |cells|
        priced = cells.each_index.select { |at| cells[at].is_a?(Money) }
        priced.each_cons(2).select { |last, at| cells[at] < cells[last] }
              .map { |last, at| [at, Fall.new(scale.gauge, scale.boundaries[at], cells[last], cells[at])] }
      end
      found.min_by(&:first)&.last
    end
  end
end
