# frozen_string_literal: true

module Server
  # Reads a catalogue from CSV, a slice of rows at a time: each row is new, changed, unchanged, doubtful or faulty, and
  # what is good is written slice by slice. Products come first, whatever stands where in the file, and then their
  # variants. The file is read through before anything is written.
  class GoodsImport
    SHOWN = 20
    # Rows that are looked at, and written, together.
    SLICE = LongChange::SLICE
    # Faults that are told; the file of faulty rows has them all.
    TOLD = 1000

    BARE = /\A\s*-?\d+([.,]\d+)?\s*\z/
    private_constant :BARE

    # Row of the file: line, its cells by our columns, the row of the shop that it changes, and what became of it.
    Row = Struct.new(:line, :sent, :cells, :columns, :old, :id, :fault, :field, :outcome, :doubt, keyword_init: true) do
      def sku = cells["sku"].to_s.strip
      def key = GateMile::Product.fold(sku)
      def good? = fault.nil? && doubt.nil?

      # @param width [Integer] columns of the file
      # @return [Hash] what is wrong, and the cells as they were sent, for people to mend
      def faults(width) = { line: line, sku: sku, field: field, detail: fault, sent: sent.values_at(0...width) }

      # The first thing that is wrong counts.
      def tell(field, detail)
        self.field ||= field
        self.fault ||= detail
      end
    end

    # A class that the file names and the shop has not.
    ComingClass = Struct.new(:name, :id, :made)

    # @param text [String] CSV
    # @param mapping [Hash{String => String}] our column => the header of the file
    # @param sure [Boolean] doubtful weights are meant
    # @param comma [Boolean] numbers are written 1,5
    # @raise [Problem] 422 where it is no such table
    def initialize(text, mapping, sure: false, comma: false)
      @text = text
      @header = GoodsCsv.rows(text).first
      @sure = sure
      @comma = comma
      @places = places(mapping)
      @units = GoodsCsv.units(mapping)
      @fields = GoodsFields.new
      @done = Hash.new(0)
      @faulty = []
      @doubts = []
      @samples = Hash.new { |hash, outcome| hash[outcome] = [] }
    end

    # @param into [#write, nil] takes table, id and what changes in rows, as {LongChange} does; nil: only say what would
    #   be
    # @yieldparam done [Integer] rows
    # @yieldparam total [Integer]
    # @return [Hash] GoodsImported of the contract
    def run(into: nil, &progress)
      @index = GoodsIndex.new(each_sent, @places)
      @classes = coming_classes
      @families = GoodsFamilies.new(@index)
      [false, true].each { |variants| slices(variants) { |rows| take(rows, into, &progress) } }
      outcome(!into.nil?)
    end

    private

    def places(mapping)
      headers = @header.map { |name| name.to_s.strip }
      places = mapping.to_h { |column, header| [column, headers.index(header)] }.compact
      GoodsCsv.refuse(:csv_needs, pointer: "/mapping/sku", field: "sku") unless places["sku"]
      double = places.keys.find { |column| places.count { |_, at| at == places[column] } > 1 }
      GoodsCsv.refuse(:csv_mapped_twice, pointer: "/mapping/#{double}", field: double) if double
      places
    end

    # Rows below the header, with their lines. Other threads get a turn before each row.
    def each_sent
      GoodsCsv.rows(@text).lazy.drop(1).each_with_index.map do |sent, at|
        Thread.pass
        [sent, at + 2]
      end
    end

    # @return [Hash{String => ComingClass}] by folded name: they come with the first row that is taken
    def coming_classes
      known = @fields.names("class")
      @index.classes.except(*known.keys).transform_values { |name| ComingClass.new(name, Records::Base.new_id, false) }
    end

    # Rows with what the shop has of them already.
    def slices(variants)
      each_sent.select { |sent, _| @index.variant?(sent) == variants }.each_slice(SLICE) do |slice|
        rows = slice.map do |sent, line|
          Row.new(line: line, sent: sent, cells: @places.transform_values do |at|
            sent[at]
          end, columns: {})
        end
        olds = GoodsRows.of(Records::Product.where(id: rows.filter_map { |row| @index.id(row.key) })).to_h { |old| [old["id"], old] }
        rows.each { |row| row.old = olds[@index.id(row.key)] }
        yield rows
      end
    end

    def take(rows, into)
      rows.each do |row|
        Thread.pass
        first = @index.line(row.key)
        first == row.line ? understand(row) : row.tell("sku", Words.of(:sku_twice, line: first))
      end
      @families.relate(rows)
      rows.each { |row| whole(row) }
      into&.write { writing(rows) }
      rows.each { |row| note(row) }
      yield @done.values.sum, @index.size if block_given?
    end

    def understand(row)
      row.cells.except("variant_of").each do |field, cell|
        next row.tell(field, Words.of(:missing)) if %w[sku name].include?(field) && cell.to_s.strip.empty?
        next if row.old && cell && plain?(row.old, field, cell)

        row.columns.merge!(columns_of(row, field, cell))
      end
      row.tell("name", Words.of(:missing)) if row.old.nil? && row.cells["name"].to_s.strip.empty?
    end

    # Most cells of a file that comes back are as they went out.
    def plain?(old, field, cell) = GoodsField[field].as_written? && old[field] == cell

    def columns_of(row, field, cell)
      coming = field == "class" && @classes[GateMile::Product.fold(cell.to_s)]
      return { "shipping_class_id" => coming } if coming

      value = @fields.of_cell(field, figure(field, cell))
      GoodsRows.raw(@fields.read(field, value, sure: @sure))
    rescue GoodsFields::Fault => e
      doubtful?(e) ? row.doubt ||= [cell, e.suggestion] : row.tell(field, e.message)
      {}
    end

    # A bare figure has the unit that its column names; a comma is a point where the merchant says so.
    def figure(field, cell)
      return cell unless cell&.match?(BARE)

      cell = cell.tr(",", ".") if @comma
      unit = @units[field]
      unit ? "#{cell} #{unit}" : cell
    end

    def doubtful?(fault) = fault.code == "doubtful_weight"

    # Each row as a whole, once it is known what belongs together.
    def whole(row)
      code = GoodsRows.fault((row.old || {}).merge(row.columns))
      row.tell(code == :missing_price ? "price" : "length", Words.of(code)) if code
      row.outcome = outcome_of(row)
      @families.know(row)
    end

    def outcome_of(row)
      return :faulty if row.fault
      return :doubtful if row.doubt
      return :created if row.old.nil?

      row.columns.reject! { |column, value| row.old[column] == value }
      row.columns.except(*GoodsField::DERIVED).empty? ? :unchanged : :changed
    end

    # @return [Array<Array>] table, id, and the row before and after
    def writing(rows)
      taken = rows.select { |row| %i[created changed].include?(row.outcome) }
      making(taken) + taken.map do |row|
        next ["products", row.old["id"], row.old.slice(*row.columns.keys), row.columns] if row.old

        ["products", row.id, nil, { "id" => row.id, **@families.place(row), **row.columns }]
      end
    end

    # Classes come with the first row that has them.
    def making(rows)
      coming = rows.filter_map { |row| row.columns["shipping_class_id"] }.grep(ComingClass).uniq.reject(&:made)
      rows.each do |row|
        if row.columns["shipping_class_id"].is_a?(ComingClass)
          row.columns["shipping_class_id"] =
            row.columns["shipping_class_id"].id
        end
      end
      last = Records::ShippingClass.last_position
      coming.each.with_index(1).map do |item, at|
        item.made = true
        ["shipping_classes", item.id, nil, { "id" => item.id, "name" => item.name, "position" => last + at }]
      end
    end

    # What is told of a row at the end; the row itself is not kept.
    def note(row)
      @done[row.outcome] += 1
      used = row.columns["shipping_class_id"]
      (@used ||= {})[used.is_a?(ComingClass) ? used.id : used] = true if %i[created
                                                                            changed].include?(row.outcome) && used
      case row.outcome
      when :faulty then @faulty << row.faults(@header.size)
      when :doubtful then @doubts << { line: row.line, sku: row.sku, weight: row.doubt[0], meant: row.doubt[1] }
      when :created, :changed then sample(row)
      end
    end

    def sample(row)
      list = @samples[row.outcome]
      return if list.size >= (row.outcome == :created ? SHOWN / 4 : SHOWN)

      changes = row.columns.without(*GoodsField::DERIVED, "parent_id").map do |column, value|
        GoodsRows.shown(column, row.old && row.old[column], value)
      end
      list << { line: row.line, sku: row.sku, outcome: row.outcome, changes: row.old ? changes : [] }
    end

    def outcome(stored)
      faulty = @faulty.sort_by { |fault| fault[:line] }
      { total: @index.size, **%i[created changed unchanged].to_h { |name| [name, @done[name]] },
        faults: faulty.first(TOLD).map { |fault| fault.except(:sent) }, doubts: doubts,
        new_classes: @classes.each_value.select { |item| @used&.key?(item.id) }.map(&:name),
        samples: @samples[:created] + @samples[:changed], faulty_csv: csv_of(faulty), stored: stored }
    end

    def doubts = @doubts.sort_by { |doubt| doubt[:line] }.first(TOLD)

    def csv_of(faulty)
      return nil if faulty.empty?

      CSV.generate(**Cells::OUT) do |csv|
        csv << [*@header, "reason"]
        faulty.each { |fault| csv << [*fault[:sent], fault[:detail]] }
      end
    end
  end
end
