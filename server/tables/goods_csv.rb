# frozen_string_literal: true

require "csv"

module Server
  # The catalogue as CSV: one row for each product and each variant. Reading it changes the products that the file names
  # and adds those it brings; a column that the file has not is left as it is.
  module GoodsCsv
    COLUMNS = Records::GoodsField::ALL.map(&:name).insert(1, "variant_of").freeze
    LIMIT = 20 * 1_048_576
    # What others call our columns, for a first guess.
    OTHERS = Records::GoodsField::ALL.to_h do |field|
      [field.name, field.others]
    end.merge("variant_of" => %w[parent parent_sku])
       .freeze
    MEASURES = { "weight" => GateMile::Weight, "length" => GateMile::Length, "width" => GateMile::Length,
                 "height" => GateMile::Length }.freeze
    SEPARATORS = [",", ";", "\t"].freeze
    private_constant :OTHERS, :MEASURES, :SEPARATORS

    class << self
      # @return [String] CSV of the whole catalogue; what a variant has from its product is empty
      def write
        fields = Records::GoodsFields.new
        products = CatalogueDocument.products.values
        CSV.generate(**Cells::OUT) do |csv|
          csv << COLUMNS
          products.each do |product|
            csv << line(product, nil, fields)
            product.fetch("variants", []).each { |variant| csv << line(variant, product["sku"], fields) }
          end
        end
      end

      # @param text [String] the beginning of a file, or all of it
      # @return [Hash] CsvHead of the contract: its columns, which of ours they probably are, and the first rows
      def head(text)
        found = rows(text.lines.first(6).join).to_a
        headers = found.first.map { |name| name.to_s.strip }
        mapping = guess(headers)
        { headers: headers, mapping: mapping, units: units(mapping),
          rows: found.drop(1).map { |row| row.map(&:to_s).first(headers.size) } }
      end

      # @param mapping [Hash{String => String}] our column => the header of the file
      # @return [Hash{String => String}] the unit that a header names, as in "Weight (g)" or "length_mm", by our column
      def units(mapping)
        MEASURES.filter_map do |column, measure|
          unit = mapping[column].to_s[/[\s_(\[]([[:alpha:]]+)[)\]]?\z/, 1]&.downcase
          [column, unit] if measure::UNITS.key?(unit)
        end.to_h
      end

      # @param text [String]
      # @return [Enumerator<Array<String>>] its rows one after the other, the header first
      # @raise [Problem] 422 at /csv where it is no such table, at the row where it stops being one
      def rows(text)
        refuse(:csv_large) if text.bytesize > LIMIT
        text = text.delete_prefix("\uFEFF")
        refuse(:csv_encoding) if text.include?("\u0000")
        separator = SEPARATORS.max_by { |mark| text.each_line.first.to_s.count(mark) }
        Enumerator.new do |out|
          first = true
          CSV.new(text, col_sep: separator, skip_blanks: true, **Cells::IN).each do |row|
            refuse(:csv_no_header) if first && row.none? { |name| name.to_s.strip != "" }
            first = false
            out << row
          end
          refuse(:csv_no_header) if first
        rescue CSV::MalformedCSVError => e
          refuse(:csv_malformed, message: e.message)
        end
      end

      # @param code [Symbol]
      # @param pointer [String]
      # @raise [Problem] 422
      def refuse(code, pointer: "/csv", **numbers)
        raise Problem.at(pointer, code, **numbers)
      end

      private

      def line(item, parent, fields)
        Records::GoodsField::ALL.map { |field| field.cell(item, fields) if parent.nil? || field.own? }.insert(1, parent)
      end

      def guess(headers)
        plain = headers.map { |header| header.downcase.gsub(/[^a-z]+/, "_").gsub(/\A_|_\z/, "") }
        COLUMNS.to_h do |column|
          at = [column, *OTHERS[column]].lazy.filter_map { |name| plain.index(name) }.first
          [column, at && headers[at]]
        end.compact
      end
    end
  end
end
