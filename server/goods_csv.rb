# frozen_string_literal: true

require "csv"

module Server
  # The catalogue as CSV: one row for each product and each variant. Reading it changes the products that the file names
  # and adds those it brings; a column that the file has not is left as it is.
  module GoodsCsv
    COLUMNS = %w[sku variant_of name price cost weight length width height class tags hazardous ships tax_class packing]
              .freeze
    LIMIT = 20 * 1_048_576
    # What others call our columns, for a first guess.
    OTHERS = { "sku" => %w[code item_number article_number product_code], "name" => %w[title product product_name],
               "variant_of" => %w[parent parent_sku], "price" => %w[unit_price regular_price price_gbp price_eur],
               "cost" => %w[unit_cost cost_price purchase_price],
               "weight" => %w[weight_kg weight_g weight_lb weight_oz unit_weight],
               "length" => %w[length_cm length_mm length_in depth], "width" => %w[width_cm width_mm width_in],
               "height" => %w[height_cm height_mm height_in], "class" => %w[shipping_class],
               "tags" => %w[tag labels], "hazardous" => %w[hazard dangerous_goods], "ships" => %w[needs_shipping],
               "tax_class" => %w[tax vat_class], "packing" => %w[orientation] }.freeze
    MEASURES = { "weight" => GateMile::Weight, "length" => GateMile::Length, "width" => GateMile::Length,
                 "height" => GateMile::Length }.freeze
    SEPARATORS = [",", ";", "\t"].freeze
    private_constant :OTHERS, :MEASURES, :SEPARATORS

    class << self
      # @return [String] CSV of the whole catalogue; what a variant has from its product is empty
      def write
        classes = Records::ShippingClass.pluck(:id, :name).to_h
        taxes = Records::TaxClass.pluck(:id, :name).to_h
        products = CatalogueDocument.products.values
        CSV.generate do |csv|
          csv << COLUMNS
          products.each do |product|
            csv << line(product, nil, classes, taxes)
            product.fetch("variants", []).each { |variant| csv << line(variant, product["sku"], classes, taxes) }
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
          CSV.new(text, col_sep: separator, skip_blanks: true).each do |row|
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
        detail = Words.of(code, **numbers)
        raise Problem.new(422, detail, errors: [{ pointer: pointer, code: code.to_s, detail: detail }])
      end

      private

      def line(item, parent, classes, taxes)
        own = [item["sku"], parent, item["name"], item["price"], item["cost"], item["weight"],
               *item.fetch("size", {}).values_at(*GateMile::Sides::NAMES), classes[item["class"]]]
        return own + ([nil] * 5) if parent

        own + [item["tags"]&.join("; "), item["hazardous"] ? "yes" : "no", item["ships"] ? "yes" : "no",
               taxes[item["tax_class"]], item.fetch("packing", "any")]
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
