# frozen_string_literal: true

module Server
  # Treatments as CSV: one row for each, by its name. Lists stand in one cell with semicolons between: zones by name,
  # methods by code, products by SKU, classes by name; an empty list of zones or methods means all. Charges are written
  # "4.00" for each unit or "1: 6.00; 4: 4.00" in steps. Reading replaces the treatments that the file names, and what
  # they sit on, and leaves the others alone.
  class TreatmentsCsv
    COLUMNS = %w[treatment active products classes zones methods pays plus charge counting together by_method only
                 never]
              .freeze
    NONE = "none"

    # Writes treatments as rows.
    class Writing
      def initialize
        @codes = Records::ShippingMethod.pluck(:id, :code).to_h
        @zones = Records::Zone.pluck(:id, :name).to_h
      end

      # @param treatment [Records::Treatment]
      # @return [Array<String, nil>]
      def row(treatment)
        [treatment.name, treatment.active ? "yes" : "no",
         treatment.targets.filter_map { |target| target.product&.sku }.sort.join("; "),
         treatment.targets.filter_map { |target| target.shipping_class&.name }.sort.join("; "),
         names(treatment.zones, @zones), names(treatment[:methods], @codes), *price(treatment.price),
         *travel(treatment.travel || {})]
      end

      private

      def names(ids, known) = ids&.map { |id| known[id] }&.join("; ")

      def travel(travel)
        only = names(travel["only"], @codes)
        [only && (only.presence || NONE), names(travel["never"], @codes)]
      end

      def price(price)
        return [nil] * 6 if price.nil?
        return ["along", price["plus"], nil, nil, nil, nil] if price["kind"] == "along"

        own = price.fetch("by_method", [])
        steps = [price["charge"], *own.map { |item| item["charge"] }].find { |item| item["steps"] }
        ["apart", nil, charge(price["charge"]), steps&.fetch("kind"), price["together"] ? "yes" : "no",
         own.map { |item| "#{@codes[item["method"]]} = #{charge(item["charge"])}" }.join(" | ")]
      end

      def charge(charge)
        charge["amount"] || charge["steps"].map { |step| "#{step["from"]}: #{step["amount"]}" }.join("; ")
      end
    end

    class << self
      # @return [String] CSV
      def write
        writing = Writing.new
        CSV.generate(**Cells::OUT) do |csv|
          csv << COLUMNS
          Records::Treatment.order(:position, :id).includes(targets: %i[product shipping_class]).each do |treatment|
            csv << writing.row(treatment)
          end
        end
      end
    end

    # @param text [String] CSV
    # @raise [Problem] 422 where it is no such table
    def initialize(text)
      @table = Table.new(text, %w[treatment], optional: COLUMNS - %w[treatment])
      @zones = index(Records::Zone, :name)
      @methods = index(Records::ShippingMethod, :code)
      @products = index(Records::Product, :sku)
      @classes = index(Records::ShippingClass, :name)
    end

    # @param store [Boolean] do it, or only say what it would do
    # @return [Hash] TreatmentsImported of the contract
    def read(store:)
      found = { created: [], changed: [], unchanged: [], faults: [], stored: store }
      seen = {}
      @table.each_row do |row, line|
        name = row["treatment"].to_s.strip
        raise ArgumentError, Words.of(:twice, first: seen[name.downcase]) if seen.key?(name.downcase)

        seen[name.downcase] = line
        outcome, = take(row, name, store)
        found[outcome] << name
      rescue ArgumentError => e
        found[:faults] << { line: line, detail: e.message }
      end
      found
    end

    private

    def index(model, column) = model.pluck(column, :id).to_h { |name, id| [GateMile::Product.fold(name), id] }

    def take(row, name, store)
      treatment = Records::Treatment.where("lower(name) = ?", name.downcase).order(:position, :id).first
      wanted = fields(row)
      targets = { product_id: ids(row, "products", @products), shipping_class_id: ids(row, "classes", @classes) }
      outcome = outcome_of(treatment, wanted, targets)
      treatment ||= Records::Treatment.new(name: name)
      treatment.assign_attributes(wanted)
      raise ArgumentError, treatment.errors.map(&:message).uniq.join(" ") unless treatment.valid?

      put(treatment, targets) if store && outcome != :unchanged
      [outcome]
    end

    def put(treatment, targets)
      treatment.save!
      there = treatment.targets.to_a
      stay, go = there.partition { |target| targets.any? { |column, ids| ids.include?(target[column]) } }
      History.write("treatment_targets",
                    TreatmentTargets.gone(TreatmentTargets.rows(treatment.targets.where(id: go.map(&:id)))))
      come = targets.to_h { |column, ids| [column, ids - stay.map { |target| target[column] }] }
      History.write("treatment_targets", TreatmentTargets.come(treatment.id, come))
    end

    def outcome_of(treatment, wanted, targets)
      return :created if treatment.nil?

      now = treatment.dup.tap { |copy| copy.assign_attributes(wanted) }
      now.valid?
      same = now.document.except("id") == treatment.document.except("id") &&
             targets.all? { |column, ids| treatment.targets.filter_map { |target| target[column] }.sort == ids.sort }
      same ? :unchanged : :changed
    end

    def fields(row)
      travel = { "only" => only(row), "never" => ids(row, "never", @methods).presence }.compact
      { "active" => row["active"].to_s.strip.downcase != "no", "zones" => ids(row, "zones", @zones).presence,
        "methods" => ids(row, "methods", @methods).presence, "price" => price(row), "travel" => travel.presence }
    end

    def only(row)
      cell = row["only"].to_s.strip
      return [] if cell.downcase == NONE

      ids(row, "only", @methods).presence
    end

    def ids(row, column, index)
      row[column].to_s.split(";").map(&:strip).reject(&:empty?).map do |name|
        index[GateMile::Product.fold(name)] or
          raise ArgumentError, "#{column}: #{Words.of(:no_class_named, name: name)}"
      end.uniq
    end

    def price(row)
      pays = row["pays"].to_s.strip.downcase
      return if pays.empty?
      return { "kind" => "along", "plus" => row["plus"].to_s.strip.presence }.compact if pays == "along"
      raise ArgumentError, "pays: #{Words.of(:not_one_of, choices: "along, apart")}" unless pays == "apart"

      own = row["by_method"].to_s.split("|").map { |part| by_method(row, part) }
      { "kind" => "apart", "charge" => charge(row, row["charge"]), "by_method" => own.presence,
        "together" => row["together"].to_s.strip.downcase == "yes" }.compact
    end

    def by_method(row, part)
      code, written = part.split("=", 2).map(&:strip)
      method = @methods[GateMile::Product.fold(code.to_s)] or
        raise ArgumentError, "by_method: #{Words.of(:no_class_named, name: code)}"
      { "method" => method, "charge" => charge(row, written) }
    end

    def charge(row, written)
      written = written.to_s.strip
      return { "kind" => "unit", "amount" => written } unless written.include?(":")

      steps = written.split(";").map do |step|
        from, amount = step.split(":", 2).map(&:strip)
        { "from" => Integer(from, 10, exception: false), "amount" => amount }
      end
      { "kind" => row["counting"].to_s.strip.downcase.presence || "graduated", "steps" => steps }
    end
  end
end
