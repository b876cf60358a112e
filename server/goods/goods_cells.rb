# frozen_string_literal: true

module Server
  # Many cells of the catalogue at once, as they were pasted: the good ones are stored, the others told one by one.
  class GoodsCells
    # @param rows [Array<Hash>] as in the contract: id, lock_version, cells by field
    # @param sure [Boolean] doubtful values are meant
    def initialize(rows, sure:)
      @rows = rows
      @sure = sure
      @fields = Records::GoodsFields.new
      @faults = []
      @stored = 0
      @names = {}
    end

    # @return [Hash] what names the change of a single row
    attr_reader :names

    # @return [Hash] GoodsCellsStored of the contract
    def store
      records = Records::Product.where(id: @rows.map { |row| row["id"] }).index_by(&:id)
      @rows.each { |row| row(row, records[row["id"]]) }
      touched = Records::Product.where(id: records.keys)
      { stored: @stored, faults: @faults, products: GoodsDocuments.of(touched) }
    end

    private

    def row(row, record)
      barred = record.nil? ? :gone : (:stale if record.lock_version != row["lock_version"])
      return row["cells"].each_key { |field| told(row, field, Words.of(barred), code: barred) } if barred

      read = row["cells"].to_h { |field, cell| [field, cell_of(row, field, cell)] }.compact
      put(row, record, read) if read.any?
    end

    # @return [Array, nil] the value in an array, nil where it is told
    def cell_of(row, field, cell)
      [@fields.of_cell(field, cell)].tap { |(value)| @fields.read(field, value, sure: @sure) }
    rescue Records::GoodsFields::Fault => e
      told(row, field, e.message, code: e.code, suggestion: e.suggestion)
    end

    # What only the whole row shows (a SKU that is taken, a size in part) takes its cells out, and the others go on.
    def put(row, record, read)
      was = record.name
      record.assign_attributes("sure" => @sure, **read.transform_values(&:first))
      return stored(record, was, read.size) if record.valid? && record.save

      bad = record.errors.flat_map { |error| refused(row, error, read.keys) }
      left = read.except(*bad)
      put(row, record.reload, left) if left.any? && left.size < read.size
    end

    def stored(record, was, count)
      @names = { name: was }.merge(Naming.of_update(record))
      @stored += count
    end

    # A side that is missing is told at those that were typed.
    def refused(row, error, typed)
      field = error.attribute.to_s
      fields = typed.include?(field) ? [field] : GateMile::Sides::NAMES & typed
      fields.each { |place| told(row, place, error.message) }
    end

    def told(row, field, detail, **more)
      @faults << { id: row["id"], field: field, code: "invalid", detail: detail, **more }.compact
      nil
    end
  end
end
