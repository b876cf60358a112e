# frozen_string_literal: true

module Server
  # Reads a catalogue from CSV, a slice of rows at a time: each row is new, changed, unchanged, doubtful or faulty, and
  # the good ones are written slice by slice. Products come before their variants, whatever the order in the file. The
  # whole file is read before anything is written.
  class GoodsImport
    # Rows that are looked at, and written, together.
    SLICE = LongChange::SLICE

    # Row of the file: line, its cells by our columns, the shop's row that it changes, and the outcome.
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

    # @param text [String] CSV
    # @param mapping [Hash{String => String}] our column => the header of the file
    # @param sure [Boolean] doubtful weights are meant
    # @param comma [Boolean] numbers are written 1,5
    # @raise [Problem] 422 where it is no such table
    def initialize(text, mapping, sure: false, comma: false)
      @text = text
      @header = GoodsCsv.rows(text).first
      @places = places(mapping)
      @said = { units: GoodsCsv.units(mapping), sure: sure, comma: comma }
    end

    # @param shop [GoodsInShop]
    # @param into [#write, nil] takes table, id and what changes in rows, as {LongChange} does; nil: only say what would
    #   be
    # @yieldparam done [Integer] rows
    # @yieldparam total [Integer]
    # @return [Hash] GoodsImported of the contract
    def run(shop: GoodsInShop.new, into: nil, &progress)
      begin_with(shop)
      [false, true].each { |variants| slices(variants) { |rows| take(rows, into, &progress) } }
      @outcome.told(@index.size, @coming.values, !into.nil?)
    end

    # Calls {run} in a child process, within a turn of {SideProcess}. This process answers its questions and writes.
    # @param wanted [#call] false once nobody waits for it any more
    # @param into [#write, nil] as for {run}
    # @return [Hash, nil] as {run}; nil where nobody wanted it any more
    def beside(wanted:, into: nil, &progress)
      heard = ->((kind, *said)) { kind == :write ? into.write { said.first } : progress&.call(*said) }
      SideProcess.apart(wanted: wanted, tell: heard, asked: GoodsInShop.new.method(:answer)) do |tell, ask|
        run(shop: GoodsInShop::Asked.new(ask), into: into && Told.new(tell)) { |*done| tell.call([:done, *done]) }
      end
    end

    # Stands in for the database in the child process: passes the changes on to the server, which writes them.
    Told = Struct.new(:tell) { def write = tell.call([:write, yield]) }
    private_constant :Told

    private

    def places(mapping)
      headers = @header.map { |name| name.to_s.strip }
      places = mapping.to_h { |column, header| [column, headers.index(header)] }.compact
      GoodsCsv.refuse(:csv_needs, pointer: "/mapping/sku", field: "sku") unless places["sku"]
      double = places.keys.find { |column| places.count { |_, at| at == places[column] } > 1 }
      GoodsCsv.refuse(:csv_mapped_twice, pointer: "/mapping/#{double}", field: double) if double
      places
    end

    def begin_with(shop)
      @shop = shop
      fields = shop.fields
      @index = GoodsIndex.new(each_sent, @places, shop)
      @coming = coming(fields)
      @families = GoodsFamilies.new(@index, shop)
      @reading = GoodsReading.new(fields, @coming, **@said)
      @outcome = GoodsOutcome.new(@header, fields)
    end

    # Rows below the header, with their lines.
    def each_sent = GoodsCsv.rows(@text).lazy.drop(1).each_with_index.map { |sent, at| [sent, at + 2] }

    # @return [Hash{String => GoodsRows::Coming}] by folded name: they come with the first row that is taken
    def coming(fields)
      known = fields.names("class")
      @index.classes.except(*known.keys).transform_values { |name| GoodsRows::Coming.new(name, Records::Base.new_id, false) }
    end

    # Rows with what the shop has of them already.
    def slices(variants)
      each_sent.select { |sent, _| @index.variant?(sent) == variants }.each_slice(SLICE) do |slice|
        rows = slice.map do |sent, line|
          cells = @places.transform_values { |at| sent[at] }
          Row.new(line: line, sent: sent, cells: cells, columns: {})
        end
        ids = rows.filter_map { |row| @index.id(row.key) }
        olds = ids.empty? ? {} : @shop.rows(ids).to_h { |old| [old["id"], old] }
        rows.each { |row| row.old = olds[@index.id(row.key)] }
        yield rows
      end
    end

    def take(rows, into)
      rows.each do |row|
        first = @index.line(row.key)
        first == row.line ? @reading.read(row) : row.tell("sku", Words.of(:sku_twice, line: first))
      end
      @families.relate(rows)
      rows.each { |row| whole(row) }
      into&.write { writing(rows) }
      rows.each { |row| @outcome.note(row) }
      yield @outcome.size, @index.size if block_given?
    end

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
      row.columns.except(*Records::GoodsField::DERIVED).empty? ? :unchanged : :changed
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
      coming = rows.filter_map { |row| row.columns["shipping_class_id"] }.grep(GoodsRows::Coming).uniq.reject(&:made)
      rows.each do |row|
        named = row.columns["shipping_class_id"]
        row.columns["shipping_class_id"] = named.id if named.is_a?(GoodsRows::Coming)
      end
      coming.map do |item|
        item.made = true
        @last_class = (@last_class || @shop.last_class) + 1
        ["shipping_classes", item.id, nil, { "id" => item.id, "name" => item.name, "position" => @last_class }]
      end
    end
  end
end
