# frozen_string_literal: true

module Server
  # Cells of a CSV that a spreadsheet would take for a formula and run are written with an apostrophe before them, and
  # read without it. Figures below zero are figures.
  # Source: OWASP, CSV Injection.
  module Cells
    RUNS = /\A[=+\-@\t\r]/
    FIGURE = /\A[-+]?\d[\d.,]*\s*[\p{L}%]*\z/
    MARKED = /\A'+[=+\-@\t\r]/
    private_constant :RUNS, :FIGURE, :MARKED

    # @param cell [Object]
    # @return [Object] the same where nothing would be run
    def self.safe(cell)
      return cell unless cell.is_a?(String)

      cell.match?(MARKED) || (cell.match?(RUNS) && !cell.match?(FIGURE)) ? "'#{cell}" : cell
    end

    # @param cell [Object]
    # @return [Object] what {safe} was given
    def self.plain(cell) = cell.is_a?(String) && cell.match?(MARKED) ? cell[1..] : cell

    # Options of Ruby's CSV, for writing and for reading.
    OUT = { write_converters: [method(:safe).to_proc] }.freeze
    IN = { converters: [method(:plain).to_proc] }.freeze
  end
end
