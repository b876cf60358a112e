# frozen_string_literal: true

module Server
  # Many cells of the catalogue at once, as they were pasted: the good ones are stored, the others told one by one.
  class GoodsCells
    # @param rows [Array<Hash>] as in the contract: id, lock_version, cells by field
    # @param sure [Boolean] doubtful values are meant
    def initialize(rows, sure:)
      @rows = rows
      @sure = sure
      @fields = GoodsFields.new
      @faults = []
      @stored = 0
    end

    # @return [Hash] GoodsCellsStored of the contract
    def store
      records = Records::Product.where(id: @rows.map { |row| row["id"] }).index_by(&:id)
      @rows.each { |row| row(row, records[row["id"]]) }
      touched = Records::Product.where(id: records.keys)
      { stored: @stored, faults: @faults, products: GoodsDocuments.of(touched.to_a) }
    end

    private

    def row(row, record)
      return row["cells"].each_key { |field| told(row, field, Words.of(:gone)) } if record.nil?
      return row["cells"].each_key { |field| told(row, field, Words.of(:stale)) } if stale?(row, record)

      read = row["cells"].to_h { |field, cell| [field, cell_of(row, field, cell)] }.compact
      put(row, record, read) if read.any?
    end

    def stale?(row, record) = record.lock_version != row["lock_version"]

    # @return [Array, nil] the value in an array, nil where it is told
    def cell_of(row, field, cell)
      [@fields.of_cell(field, cell)].tap { |(value)| @fields.read(field, value, sure: @sure) }
    rescue GoodsFields::Fault => e
      told(row, field, e.message, code: e.code, suggestion: e.suggestion)
    end

    # What only the whole row shows (a SKU that is taken, a size in part) takes its cells out, and the others go on.
    def put(row, record, read)
      record.assign_attributes("sure" => @sure, **read.transform_values(&:first))
      return @stored += read.size if record.valid? && record.save

      bad = record.errors.map { |error| error.attribute.to_s }
      bad |= GateMile::Sides::NAMES & read.keys if bad.intersect?(GateMile::Sides::NAMES)
      record.errors.each { |error| told(row, error.attribute.to_s, error.message) }
      left = read.except(*bad)
      put(row, record.reload, left) if left.any? && left.size < read.size
    end

    def told(row, field, detail, **more)
      @faults << { id: row["id"], field: field, code: "invalid", detail: detail, **more }.compact
      nil
    end
  end
end
