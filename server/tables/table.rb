# frozen_string_literal: true

require "csv"

module Server
  # A CSV with named columns, as merchants send it: with or without BOM, rows with faults told by their line.
  class Table
    # @return [CSV::Table]
    attr_reader :rows

    # @param text [String]
    # @param columns [Array<String>] that it must have
    # @param optional [Array<String>] that it may have
    # @raise [Problem] 422 at /csv where it is no such table
    def initialize(text, columns, optional: [])
      text = text.delete_prefix("\uFEFF")
      refuse(:csv_encoding) if text.include?("\u0000")
      header = ->(name) { name.to_s.strip.downcase }
      @rows = CSV.parse(text, headers: true, header_converters: header, skip_blanks: true,
                              **Cells::IN)
      check(rows.headers.map(&:to_s).reject(&:empty?), columns, optional)
    rescue CSV::MalformedCSVError => e
      refuse(:csv_malformed, message: e.message)
    end

    # @yieldparam row [CSV::Row]
    # @yieldparam line [Integer] counted from 1, the header being line 1
    def each_row(&) = rows.each.with_index(2, &)

    private

    def check(named, columns, optional)
      missing = columns - named
      foreign = named - columns - optional
      refuse(:csv_columns, columns: columns.join(", "), missing: missing.join(", ")) if missing.any?
      refuse(:csv_foreign, foreign: foreign.join(", "), columns: (columns + optional).join(", ")) if foreign.any?
    end

    def refuse(code, **numbers)
      raise Problem.at("/csv", code, **numbers)
    end
  end
end
