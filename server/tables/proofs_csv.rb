# frozen_string_literal: true

require "csv"

module Server
  # Proofs as CSV: one row for each, by its name. Reading adds those that are new and replaces those that the file
  # names; the others stay. A row that can't be read is told by its line, and the others are taken.
  class ProofsCsv
    ADDRESS = %w[country region postcode].freeze
    COLUMNS = (%w[proof note tags goods] + ADDRESS + %w[street group coupons cart when zone status methods only ordered
                                                        text recorded]).freeze
    # Rows between two words of how far it is.
    STEP = 250
    private_constant :STEP

    class << self
      # @return [String] CSV
      def write
        cells = ProofCells.new(codes)
        zones = Records::Zone.pluck(:id, :name).to_h
        CSV.generate(**Cells::OUT) do |csv|
          csv << COLUMNS
          Records::Proof.order(:position, :id).each { |proof| csv << row(proof.document, cells, zones) }
        end
      end

      # @return [Hash{String => String}] codes of methods by id
      def codes = Records::ShippingMethod.pluck(:id, :code).to_h

      private

      def row(proof, cells, zones)
        expects = proof["expects"]
        [proof["name"], proof["note"], list(proof["tags"]), *cart(proof["cart"], cells), cells.moment(proof),
         zones.fetch(expects["zone"], expects["zone"]), expects["status"], cells.methods(expects["methods"].to_a),
         *%w[only ordered].map { |flag| expects[flag] ? "yes" : nil }, expects["text"], json(proof["recorded"])]
      end

      def cart(cart, cells)
        to = cart["destination"].to_h
        rest = cart.except("lines", "destination", "group", "coupons")
        [cells.goods(cart["lines"]), *to.values_at(*ADDRESS), list(to["lines"]), cart["group"],
         list(cart["coupons"]), json(rest)]
      end

      def list(texts) = texts&.join("; ")
      def json(value) = value&.any? ? JSON.generate(value) : nil
    end

    # @param text [String] CSV
    # @raise [Problem] 422 where it is no such table
    def initialize(text)
      @table = Table.new(text, %w[proof goods], optional: COLUMNS - %w[proof goods])
      @cells = ProofCells.new(ProofsCsv.codes)
      @zones = Records::Zone.pluck(:name, :id).to_h { |name, id| [name.downcase, id] }
      @there = Records::Proof.all.index_by { |proof| proof.name.downcase }
      @seen = {}
      @changes = []
      @done = { created: [], changed: [], unchanged: [], faults: [] }
      store = Records::Store.current
      @setting = GateMile::Setting.new(store.money, store.time_zone)
    end

    # @param store [Boolean] whether the good rows are stored, or only what would be is told
    # @yieldparam done [Integer]
    # @yieldparam total [Integer]
    # @return [Hash] TableImported of the contract
    def read(store:)
      total = @table.rows.size
      @table.each_row do |row, line|
        take(row, line)
        yield line - 1, total if ((line - 1) % STEP).zero?
      end
      write if store && @changes.any?
      @done.merge(stored: store)
    end

    private

    def take(row, line)
      name = row["proof"].to_s.strip
      return fault(line, "proof", :twice_in_file, line: @seen[name.downcase]) if @seen.key?(name.downcase)

      @seen[name.downcase] = line
      keep(name, proof(name, row))
    rescue ProofCells::Unreadable => e
      fault(line, e.column, e.code, **e.numbers)
    rescue GateMile::Invalid => e
      problem = e.problems.first
      fault(line, problem.pointer.delete_prefix("/"), problem.code, **problem.numbers)
    end

    def fault(line, column, code, **numbers)
      @done[:faults] << { line: line, detail: "#{column}: #{Words.of(code, **numbers)}" }
    end

    # @return [Hash] document of it, as the core writes it
    # @raise [GateMile::Invalid]
    def proof(name, row)
      read = GateMile::ProofForms::PROOF.parse(fields(name, row), @setting)
      GateMile::ProofForms::PROOF.write(read)
    end

    def fields(name, row)
      text = ->(column) { row[column].to_s.strip.presence }
      { "id" => @there[name.downcase]&.id || Records::Base.new_id, "name" => name, "note" => text.call("note"),
        "tags" => listed(row["tags"]), "cart" => cart(row, text), **@cells.read_moment(row["when"].to_s),
        "expects" => expects(row, text),
        "recorded" => text.call("recorded")&.then { |json| @cells.json("recorded", json) } }.compact
    end

    def cart(row, text)
      to = ADDRESS.to_h { |column| [column, text.call(column)] }.merge("lines" => listed(row["street"])).compact
      rest = text.call("cart")&.then { |json| @cells.json("cart", json) }
      { "lines" => @cells.read_goods(row["goods"]), "destination" => to, "group" => text.call("group"),
        "coupons" => listed(row["coupons"]), **rest.to_h }.compact
    end

    def expects(row, text)
      { "zone" => text.call("zone")&.then { |name| @zones.fetch(name.downcase, name) }, "status" => text.call("status"),
        "methods" => @cells.read_methods(row["methods"]), "text" => text.call("text"),
        "only" => yes?(row["only"]), "ordered" => yes?(row["ordered"]) }.compact
    end

    def listed(text) = text.to_s.split(";").map(&:strip).reject(&:empty?)
    def yes?(text) = %w[yes y true 1].include?(text.to_s.strip.downcase)

    def keep(name, document)
      there = @there[name.downcase]
      return @done[:unchanged] << name if there && there.document.compact == document

      @done[there ? :changed : :created] << name
      @changes << [there, document]
    end

    # All of them as one change, past the records: each has been read by the core.
    def write
      place = Records::Proof.last_position
      rows = @changes.map do |there, document|
        record = there || Records::Proof.new(id: document["id"], position: place += 1)
        before = there && SetupRows.plain_row(there)
        record.assign_attributes({ "note" => nil, "tags" => nil, "at" => nil, "weekdays" => nil, "time" => nil,
                                   "recorded" => nil, **document.except("id") })
        [document["id"], before, SetupRows.plain_row(record)]
      end
      History.write("proofs", rows)
    end
  end
end
