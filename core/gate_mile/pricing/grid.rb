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

    class << self
      # @param reader [Reader]
      # @param currency [Currency]
      # @return [Grid]
      def read(reader, currency)
        rows = reader.object("rows")&.then { |item| axis(item, currency, ROWS) }
        columns = reader.object("columns")&.then { |item| columns(item, currency) }
        new(rows: rows, columns: columns, cells: cells(reader, currency, rows, columns))
      end

      private

      def columns(item, currency)
        item.given?("areas") ? AreaSets.read(item) : axis(item, currency, COLUMNS)
      end

      def axis(item, currency, most)
        list = item.values("at", most: most)
        item.problem("at", :missing) if list.empty? && item.given?("at")
        places = list.each_index.map { |at| [Cell.new(item, "at", at), nil] }
        Scale.read(item, currency, places).tap { item.finish }
      end

      def cells(reader, currency, rows, columns)
        list = reader.values("cells", most: ROWS)
        size = [rows&.boundaries&.size, columns&.size]
        return reader.problem("cells", :grid_size, rows: size[0].to_i, columns: size[1].to_i) || [] unless fits?(list,
                                                                                                                 size)

        list.each_with_index.map do |row, down|
          row.each_index.map { |right| cell(Cell.new(reader, "cells", down, right), currency) }
        end
      end

      def fits?(list, size) = list.size == size[0] && list.all? { |row| row.is_a?(Array) && row.size == size[1] }

      def cell(place, currency)
        return if place.value.nil? || place.value == ""
        return :none if place.value == NONE

        place.parsed(nil) do |text|
          Money.parse(text, currency).tap do |amount|
            raise Malformed, :negative if amount.negative?
          end
        end
      end
    end

    # One bare value of a list inside a document, read like a field.
    class Cell
      # @param reader [Reader]
      # @param path [Array] where it stands
      def initialize(reader, *path)
        @reader = reader
        @path = path
      end

      # @return [Object]
      def value = @path.drop(1).inject(@reader.values(@path.first)) { |list, at| list[at] }

      # @yieldparam value [Object]
      def parsed(_key)
        return problem(nil, :missing) if value.nil? || value == ""

        yield value
      rescue Malformed => e
        problem(nil, e.code, **e.numbers)
      end

      # @return [nil]
      def problem(_key, code, **numbers) = @reader.problem(@path, code, **numbers)
    end

    # @return [Array<Gauge>]
    def gauges = [rows.gauge, *columns.gauges]

    # @return [Array<Scale>]
    def scales = [rows, *columns.scales]

    # @param load [Load]
    # @param place [Destination] where it goes, as far as it is known
    # @return [Priced, Refusal]
    def price(load, place)
      number = load.by(rows.gauge) or return load.missing(rows.gauge)
      column = columns.column(load, place)
      return column if column.is_a?(Refusal)

      row = rows.find(number)
      told = { row: rows.boundaries[row].text, measure: rows.gauge.name, edges: rows.edges,
               column: columns.title(column) }
      of_cell(cells[row][column], told)
    end

    # @return [Hash] for JSON
    def dump
      { "kind" => "grid", "rows" => rows.axis_dump, "columns" => columns.axis_dump,
        "cells" => cells.map { |row| row.map { |cell| cell == :none ? NONE : cell&.to_s } } }
    end

    private

    def of_cell(cell, told)
      return Refusal.new(code: :blank_cell, incomplete: true, numbers: told) if cell.nil?
      return Refusal.new(code: :cell_none, numbers: told) if cell == :none

      Priced.new(code: :"schedule.grid", amount: cell.minor, numbers: told, chosen: cell.zero?)
    end
  end

  # As the columns of a {Grid}.
  class Scale
    def size = boundaries.size
    def gauges = [gauge]
    def scales = [self]
    def title(at) = "#{gauge.name} #{boundaries[at].text}"
    def axis_dump = { **dump, "at" => boundaries.map(&:text) }

    # @return [Integer, Refusal]
    def column(load, _place)
      number = load.by(gauge)
      number ? find(number) : load.missing(gauge)
    end
  end

  # Named sets of areas as the columns of a {Grid}; the first that an address lies in counts, by the same reading as
  # zones.
  class AreaSets
    # @return [Array<String>]
    attr_reader :names

    # @param reader [Reader]
    # @return [AreaSets]
    def self.read(reader)
      names = []
      lists = reader.list("areas", most: Grid::COLUMNS) do |item|
        names << item.text("name", most: 60)
        item.list("areas", most: 300) { |area| Area.read(area) }.tap do |areas|
          item.problem("areas", :missing) if areas.empty? && item.given?("areas")
        end
      end
      reader.problem("areas", :missing) if lists.empty?
      reader.finish
      new(names, lists)
    end

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
    def column(_load, place) = place.within(@zones) { |landing| landing.zone.id }

    # @return [Hash] for JSON
    def axis_dump
      { "areas" => names.zip(@lists).map { |name, areas| { "name" => name, "areas" => areas.map(&:dump) } } }
    end

    def ==(other) = other.is_a?(AreaSets) && axis_dump == other.axis_dump
    alias eql? ==
    def hash = axis_dump.hash
  end
end
