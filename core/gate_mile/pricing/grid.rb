# frozen_string_literal: true

module GateMile
  # A schedule over two measures, or one measure and sets of areas: a table of amounts. A blank cell is something not
  # said yet, never zero.
  #
  # rows: {Scale}; columns: {Scale} or {AreaSets}; cells: rows of {Money}, :none (not available) or nil (blank).
  class Grid < Value.of(:rows, :columns, :cells)
    ROWS = 50
    COLUMNS = 30
    NONE = "none"

    # @return [Array<Gauge>]
    def gauges = [rows.gauge, *columns.gauges]

    # @return [Array<Scale>]
    def scales = [rows, *columns.scales]

    # @param load [Load]
    # @param destination [Destination] where it goes, as far as it is known
    # @return [Priced, Refusal]
    def price(load, destination)
      number = load.by(rows.gauge) or return load.missing(rows.gauge)
      column = columns.column(load, destination)
      return column if column.is_a?(Refusal)

      at = [rows.find(number), column]
      cell = cells.dig(*at)
      return Refusal.new(cell ? :cell_none : :blank_cell) { where(at) } unless cell.is_a?(Money)

      Priced.new(self, load, cell.minor, at)
    end

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [Grid]
    def map_amounts(pointer)
      changed = cells.each_with_index.map do |row, down|
        row.each_with_index.map do |cell, right|
          cell.is_a?(Money) ? yield(cell, "#{pointer}/cells/#{down}/#{right}") : cell
        end
      end
      with(cells: changed)
    end

    # @return [Symbol]
    def code = :"schedule.grid"

    # @return [Boolean] whether a price of nothing was typed
    def chosen?(_priced) = true

    # @param priced [Priced]
    # @return [Hash]
    def figures(priced) = where(priced.at)

    private

    def where(at)
      row, column = at
      { row: rows.boundaries[row].text, measure: rows.gauge.name, edges: rows.edges, column: columns.title(column) }
    end
  end
end
