# frozen_string_literal: true

module Server
  # Reads a catalogue from CSV: looks at every row first, sorts them into new, changed, unchanged and faulty ones, and
  # then writes what is good as one change.
  class GoodsImport
    SHOWN = 20
    # How many rows are read between two reports of progress.
    STRIDE = 500

    BARE = /\A\s*-?\d+([.,]\d+)?\s*\z/
    private_constant :BARE

    # Row of the file: line, its cells by our columns, and what became of it.
    Row = Struct.new(:line, :sent, :cells, :columns, :old, :fault, :field, :outcome, :doubt, keyword_init: true) do
      def sku = cells["sku"].to_s.strip
      def key = GateMile::Product.fold(sku)
      def good? = fault.nil? && doubt.nil?

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
      @header, *@sent = GoodsCsv.parse(text)
      @sure = sure
      @comma = comma
      @places = places(mapping)
      @units = GoodsCsv.units(mapping)
      @fields = GoodsFields.new
    end

    # @param store [Boolean]
    # @yieldparam done [Integer] rows
    # @yieldparam total [Integer]
    # @return [Hash] GoodsImported of the contract
    def run(store:, &progress)
      @there = GoodsRows.of(Records::Product.all).to_h { |row| [GateMile::Product.fold(row["sku"]), row] }
      @coming = coming_classes
      @rows = read(&progress)
      GoodsFamilies.new(@rows, @there).relate
      @rows.each { |row| whole(row) }
      @new_classes = used_classes
      write if store
      outcome(store)
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

    # A class that the file names and the shop has not, in the place of an id.
    ComingClass = Struct.new(:name)

    # @return [Hash{String => ComingClass}] by folded name: they come with the rows that are taken
    def coming_classes
      at = @places["class"] or return {}
      known = @fields.names("class")
      names = @sent.filter_map { |row| row[at]&.strip.presence }.select { |name| name.length <= 60 }
      names.uniq { |name| GateMile::Product.fold(name) }.to_h { |name| [GateMile::Product.fold(name), ComingClass.new(name)] }
           .except(*known.keys)
    end

    def used_classes
      taken = @rows.select { |row| %i[created changed].include?(row.outcome) }
      taken.map { |row| row.columns["shipping_class_id"] }.grep(ComingClass).uniq
    end

    def make_classes
      made = @new_classes.to_h { |item| [item, Records::ShippingClass.create!(name: item.name).id] }
      @rows.each do |row|
        wanted = row.columns["shipping_class_id"]
        row.columns["shipping_class_id"] = made[wanted] if made.key?(wanted)
      end
    end

    def read
      lines = {}
      @sent.each_with_index.map do |sent, index|
        yield index, @sent.size if block_given? && (index % STRIDE).zero?
        row = Row.new(line: index + 2, sent: sent, cells: @places.transform_values { |at| sent[at] }, columns: {})
        row.old = @there[row.key]
        first = lines[row.key]
        first ? row.tell("sku", Words.of(:sku_twice, line: first)) : understand(row)
        lines[row.key] ||= row.line
        row
      end
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
    def plain?(old, field, cell) = %w[sku name weight length width height].include?(field) && old[field] == cell

    def columns_of(row, field, cell)
      coming = field == "class" && @coming[GateMile::Product.fold(cell.to_s)]
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
    end

    def outcome_of(row)
      return :faulty if row.fault
      return :doubtful if row.doubt
      return :created if row.old.nil?

      row.columns.reject! { |column, value| row.old[column] == value }
      row.columns.except("weight_ng").empty? ? :unchanged : :changed
    end

    def write
      make_classes
      @family = Records::Product.maximum(:family).to_i
      comes, others = @rows.partition { |row| row.outcome == :created }
      variants, products = comes.partition { |row| row.columns["parent_id"] }
      @made = {}
      History.write("products", products.map { |row| coming(row) } + variants.map { |row| coming(row) } +
                                others.select { |row| row.outcome == :changed }.map { |row| changing(row) })
    end

    def changing(row) = [row.old["id"], row.old.slice(*row.columns.keys), row.columns]

    def coming(row)
      id = Records::Base.new_id
      parent = row.columns["parent_id"]
      family, position = parent ? behind(parent) : [@family += 1, 0]
      @made[row] = [id, family, 0]
      columns = row.columns.merge("parent_id" => parent.is_a?(Row) ? @made.fetch(parent).first : parent)
      [id, nil, { "id" => id, "family" => family, "position" => position, **columns }]
    end

    # @return [Array(Integer, Integer)] family and position of the next variant
    def behind(parent)
      key = parent.is_a?(Row) ? parent : (@behind ||= {})
      made = parent.is_a?(Row) ? @made.fetch(parent) : key[parent] ||= last_of(parent)
      [made[1], made[2] += 1]
    end

    def last_of(id)
      [id, Records::Product.where(id: id).pick(:family), Records::Product.where(parent_id: id).maximum(:position).to_i]
    end

    def outcome(store)
      by = @rows.group_by(&:outcome)
      faulty = by.fetch(:faulty, [])
      doubtful = by.fetch(:doubtful, [])
      { total: @rows.size, **%i[created changed unchanged].to_h { |name| [name, by.fetch(name, []).size] },
        faults: faulty.map { |row| { line: row.line, sku: row.sku, field: row.field, detail: row.fault } },
        doubts: doubtful.map { |row| { line: row.line, sku: row.sku, weight: row.doubt[0], meant: row.doubt[1] } },
        new_classes: @new_classes.map(&:name), samples: samples(by), faulty_csv: csv_of(faulty), stored: store }
    end

    def samples(by)
      (by.fetch(:created, []).first(SHOWN / 4) + by.fetch(:changed, []).first(SHOWN)).map do |row|
        changes = row.columns.without("weight_ng", "parent_id").map do |column, value|
          GoodsRows.shown(column, row.old && row.old[column], value)
        end
        { line: row.line, sku: row.sku, outcome: row.outcome, changes: row.old ? changes : [] }
      end
    end

    def csv_of(rows)
      return nil if rows.empty?

      CSV.generate do |csv|
        csv << [*@header, "reason"]
        rows.each { |row| csv << [*row.sent.values_at(0...@header.size), row.fault] }
      end
    end
  end
end
