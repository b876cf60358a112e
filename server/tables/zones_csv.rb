# frozen_string_literal: true

module Server
  # Zones as CSV: one row for each area, a zone without areas as one row with an empty kind. Lists stand in one cell,
  # semicolons between. Reading replaces the areas of the zones that the file names and leaves the others alone.
  module ZonesCsv
    COLUMNS = %w[zone active kind country regions only except].freeze
    LISTS = %w[regions only except].freeze
    private_constant :LISTS

    class << self
      # @return [String] CSV
      def write
        CSV.generate(**Cells::OUT) do |csv|
          csv << COLUMNS
          Records::Zone.order(:position, :id).includes(:areas).each do |zone|
            areas = zone.areas.map(&:document)
            (areas.empty? ? [{}] : areas).each do |area|
              csv << [zone.name, zone.active ? "yes" : "no", area["kind"], area["country"],
                      *LISTS.map { |list| area[list]&.join("; ") }]
            end
          end
        end
      end

      # @param text [String] CSV
      # @param store [Boolean] do it, or only say what it would do
      # @return [Hash] the ZonesImported of the contract
      # @raise [Problem] 422 where it is no such table
      def read(text, store:)
        zones, faults = sorted(Table.new(text, COLUMNS))
        found = { created: [], changed: [], unchanged: [], faults: faults, stored: store }
        zones.each_value do |wanted|
          zone = Records::Zone.where("lower(name) = ?", wanted[:name].downcase).first
          found[outcome(zone, wanted)] << wanted[:name]
          put(zone, wanted) if store
        end
        found
      end

      private

      def sorted(table)
        zones = {}
        faults = []
        table.each_row do |row, line|
          name = row["zone"].to_s.strip
          detail = fault(row, name)
          next faults << { line: line, detail: detail } if detail

          wanted = zones[name.downcase] ||= { name: name, active: row["active"].to_s.strip.downcase != "no", areas: [] }
          wanted[:areas] << area(row) unless row["kind"].to_s.strip.empty?
        end
        [zones, faults]
      end

      def fault(row, name)
        return "#{Words.of(:missing)} (zone)" if name.empty?
        return "#{Words.of(:too_long, most: 120, length: name.length)} (zone)" if name.length > 120
        return if row["kind"].to_s.strip.empty?

        reader = GateMile::Reader.new(area(row))
        GateMile::Documents.read(GateMile::Area, reader)
        reader.problems.map { |problem| worded(problem, area(row)) }.join(" ").presence
      end

      def worded(problem, area)
        _, field, index = problem.pointer.split("/")
        item = index ? " “#{area[field][index.to_i]}”" : ""
        "#{field}#{item}: #{Words.of(problem.code, **problem.numbers)}"
      end

      def area(row)
        fields = { "kind" => row["kind"].strip.downcase, "country" => row["country"].to_s.strip.presence }
        LISTS.each { |list| fields[list] = row[list].to_s.split(";").map(&:strip).reject(&:empty?) }
        fields.reject { |_, value| value.nil? || value == [] }
      end

      def canonical(areas)
        areas.map { |fields| GateMile::Documents.write(GateMile::Documents.parse(GateMile::Area, fields)) }.uniq
      end

      def outcome(zone, wanted)
        return :created if zone.nil?

        same = zone.areas.map(&:document) == canonical(wanted[:areas]) && zone.active == wanted[:active]
        same ? :unchanged : :changed
      end

      def put(zone, wanted)
        return if outcome(zone, wanted) == :unchanged

        zone ||= Records::Zone.new(name: wanted[:name])
        zone.active = wanted[:active]
        zone.areas.each(&:destroy!) if zone.persisted?
        zone.areas.reset
        zone.touch_lock if zone.persisted?
        zone.add(canonical(wanted[:areas]))
        zone.save!
      end
    end
  end
end
