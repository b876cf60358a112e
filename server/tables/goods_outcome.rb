# frozen_string_literal: true

module Server
  # Counts what became of the rows of a file of goods, and keeps a few of them as samples.
  class GoodsOutcome
    SHOWN = 20
    # New rows say less than changed ones.
    NEW_SHOWN = 5
    # The most faults in one answer. The file of faulty rows has no limit.
    TOLD = 1000
    private_constant :SHOWN, :NEW_SHOWN, :TOLD

    # @param header [Array<String>] of the file
    # @param fields [Records::GoodsFields]
    def initialize(header, fields)
      @header = header
      @fields = fields
      @done = Hash.new(0)
      @faulty = []
      @doubts = []
      @samples = Hash.new { |hash, outcome| hash[outcome] = [] }
      @used = {}
    end

    # @return [Integer] rows that were noted
    def size = @done.values.sum

    # @param row [GoodsImport::Row]
    # @return [void]
    def note(row)
      @done[row.outcome] += 1
      case row.outcome
      when :faulty then @faulty << row.faults(@header.size)
      when :doubtful then @doubts << { line: row.line, sku: row.sku, weight: row.doubt[0], meant: row.doubt[1] }
      when :created, :changed then taken(row)
      end
    end

    # @param total [Integer] rows of the file
    # @param coming [Enumerable<GoodsRows::Coming>] classes that the file names and the shop has not
    # @param stored [Boolean]
    # @return [Hash] GoodsImported of the contract
    def told(total, coming, stored)
      faulty = @faulty.sort_by { |fault| fault[:line] }
      { total: total, **%i[created changed unchanged].to_h { |name| [name, @done[name]] },
        faults: faulty.first(TOLD).map { |fault| fault.except(:sent) },
        doubts: @doubts.sort_by { |doubt| doubt[:line] }.first(TOLD),
        new_classes: coming.select { |item| @used.key?(item.id) }.map(&:name),
        samples: @samples[:created] + @samples[:changed], faulty_csv: csv_of(faulty), stored: stored }
    end

    private

    def taken(row)
      used = row.columns["shipping_class_id"]
      @used[used.is_a?(GoodsRows::Coming) ? used.id : used] = true if used
      list = @samples[row.outcome]
      return if list.size >= (row.outcome == :created ? NEW_SHOWN : SHOWN)

      changes = row.columns.without(*Records::GoodsField::DERIVED, "parent_id").map do |column, value|
        GoodsRows.shown(column, row.old && row.old[column], value, @fields)
      end
      list << { line: row.line, sku: row.sku, outcome: row.outcome, changes: row.old ? changes : [] }
    end

    def csv_of(faulty)
      return if faulty.empty?

      CSV.generate(**Cells::OUT) do |csv|
        csv << [*@header, "reason"]
        faulty.each { |fault| csv << [*fault[:sent], fault[:detail]] }
      end
    end
  end
end
