# frozen_string_literal: true

require "csv"

module Server
  # Boxes as CSV: one row for each, by its name. Reading replaces the boxes that the file names and leaves the others
  # alone; a row with a fault is told by its line.
  class BoxesCsv
    SIDES = GateMile::Sides::NAMES
    OUTER = SIDES.map { |side| "outer_#{side}" }.freeze
    COLUMNS = (%w[box active] + SIDES + %w[padding] + OUTER + %w[tare up_to cost]).freeze

    # @return [String] CSV
    def self.write
      CSV.generate(**Cells::OUT) do |csv|
        csv << COLUMNS
        Records::Box.order(:position, :id).each do |box|
          csv << [box.name, box.active ? "yes" : "no", *box.size.values_at(*SIDES), box.padding,
                  *box.outer.to_h.values_at(*SIDES), box.tare, box.up_to, box.cost]
        end
      end
    end

    # @param text [String] CSV
    # @raise [Problem] 422 where it is no such table
    def initialize(text)
      @table = Table.new(text, %w[box] + SIDES, optional: COLUMNS - SIDES - %w[box])
      @done = { created: [], changed: [], unchanged: [], faults: [] }
    end

    # @param store [Boolean] whether the good rows are stored, or only what would be is told
    # @return [Hash] TableImported of the contract
    def read(store:)
      @table.each_row { |row, line| row(row, line, store) }
      @done.merge(stored: store)
    end

    private

    def row(row, line, store)
      name = row["box"].to_s.strip
      box = Records::Box.where("lower(name) = ?", name.downcase).first || Records::Box.new
      box.assign_attributes(fields(row).merge("name" => name))
      return fault(box, line) unless box.valid?

      @done[kind(box)] << name
      box.save! if store && box.changed?
    end

    def kind(box)
      if box.new_record?
        :created
      else
        (box.changed? ? :changed : :unchanged)
      end
    end

    def fault(box, line)
      told = box.errors.map do |error|
        "#{error.options[:pointer].to_s.split("/").last || error.attribute}: #{error.message}"
      end
      @done[:faults] << { line: line, detail: told.join(" ") }
    end

    def fields(row)
      unit = Records::Store.current.then { |store| [store.length_unit, store.weight_unit] }
      outer = with_unit(row, OUTER, unit.first).transform_keys { |key| key.delete_prefix("outer_") }
      { "active" => !%w[no n false 0].include?(row["active"].to_s.strip.downcase),
        "size" => with_unit(row, SIDES, unit.first), "outer" => (outer if outer.any?),
        **with_unit(row, %w[padding], unit.first, all: true), **with_unit(row, %w[tare up_to], unit.last, all: true),
        "cost" => row["cost"].presence }
    end

    # Bare figures are in the shop's unit.
    def with_unit(row, columns, unit, all: false)
      found = columns.to_h do |column|
        text = row[column].to_s.strip
        [column, text.match?(/\A[\d.]+\z/) ? "#{text} #{unit}" : text.presence]
      end
      all ? found : found.compact
    end
  end
end
