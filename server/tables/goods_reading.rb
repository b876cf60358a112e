# frozen_string_literal: true

module Server
  # Reads the cells of rows of goods, using the currency of the shop and the units of the shop and the file.
  class GoodsReading
    BARE = /\A\s*-?\d+([.,]\d+)?\s*\z/
    private_constant :BARE

    # @param fields [Records::GoodsFields]
    # @param coming [Hash{String => GoodsRows::Coming}] by folded name, classes that the file names and the shop has not
    # @param units [Hash{String => String}] of our columns, where the file's header says them
    # @param sure [Boolean] doubtful weights are meant
    # @param comma [Boolean] numbers are written 1,5
    def initialize(fields, coming, units:, sure:, comma:)
      @fields = fields
      @coming = coming
      @units = units
      @sure = sure
      @comma = comma
    end

    # @param row [GoodsImport::Row]
    # @return [void] sets its columns, and its fault or doubt if there is one
    def read(row)
      row.cells.except("variant_of").each do |field, cell|
        next row.tell(field, Words.of(:missing)) if %w[sku name].include?(field) && cell.to_s.strip.empty?
        next if row.old && cell && plain?(row.old, field, cell)

        row.columns.merge!(columns_of(row, field, cell))
      end
      row.tell("name", Words.of(:missing)) if row.old.nil? && row.cells["name"].to_s.strip.empty?
    end

    private

    # Most cells of a file that comes back are as they went out.
    def plain?(old, field, cell) = Records::GoodsField[field].as_written? && old[field] == cell

    def columns_of(row, field, cell)
      coming = field == "class" && @coming[GateMile::Product.fold(cell.to_s)]
      return { "shipping_class_id" => coming } if coming

      value = @fields.of_cell(field, figure(field, cell))
      GoodsRows.raw(@fields.read(field, value, sure: @sure))
    rescue Records::GoodsFields::Fault => e
      e.code == "doubtful_weight" ? row.doubt ||= [cell, e.suggestion] : row.tell(field, e.message)
      {}
    end

    # A bare figure has the unit that its column names; a comma is a point where the merchant says so.
    def figure(field, cell)
      return cell unless cell&.match?(BARE)

      cell = cell.tr(",", ".") if @comma
      unit = @units[field]
      unit ? "#{cell} #{unit}" : cell
    end
  end
end
