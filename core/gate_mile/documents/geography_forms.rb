# frozen_string_literal: true

module GateMile
  # Places in JSON: addresses, areas, zones.
  module GeographyForms
    ADDRESS = Form.new(Address) do
      parsed(:country) { |text| Countries.parse(text) }
      text :region, required: false
      text :postcode, required: false, most: 20
      field(:lines, write: lambda { |lines|
        lines unless lines.nil? || lines.empty?
      }) { |reader, _| GeographyForms.lines(reader) }
    end

    # @return [Array<String>] street lines
    def self.lines(reader)
      lines = reader.values("lines", required: false, most: 6)
      bad = lines.index { |line| !line.is_a?(String) || line.length > Reader::NAME_LENGTH }
      bad ? reader.problem("lines", :bad_line, line: bad + 1) || [] : lines
    end

    # The world; a country or some of its regions, perhaps narrowed by clauses.
    module AreaForm
      NONE = [].freeze
      private_constant :NONE

      class << self
        # @return [Area]
        def read(reader, _setting = nil)
          area = area(reader)
          reader.finish
          area
        end

        # @return [Hash] for JSON; what is empty is left out
        def write(area)
          { "kind" => area.kind.to_s, "country" => area.country, "regions" => area.regions,
            "only" => area.only.map(&:text), "except" => area.except.map(&:text) }
            .reject { |_, value| value.nil? || value.empty? }
        end

        private

        def area(reader)
          kind = reader.choice("kind", among: Area::KINDS)
          return unnarrowed(reader, kind) if kind.nil? || kind == "world"

          country = reader.parsed("country") { |text| Countries.parse(text) }
          Area.new(kind: kind.to_sym, country: country, regions: kind == "regions" ? regions(reader, country) : NONE,
                   only: clauses(reader, "only", country), except: clauses(reader, "except", country))
        end

        # The world has neither regions nor clauses; of an unknown kind nothing more is told than that.
        def unnarrowed(reader, kind)
          %w[country regions only except].each { |key| reader.given?(key, read: true) } if kind.nil?
          Area.new(kind: kind&.to_sym, regions: NONE, only: NONE, except: NONE)
        end

        def regions(reader, country)
          list = reader.values("regions", most: 500)
          reader.problem("regions", :missing) if list.empty? && reader.given?("regions")
          each(reader, "regions", list) { |code| Regions.parse(country, code) if country }
        end

        def clauses(reader, key, country)
          list = reader.values(key, required: false, most: Area::MOST_CLAUSES)
          each(reader, key, list) { |text| Clause.parse(text.is_a?(String) ? text : "", country) if country }
        end

        def each(reader, key, list)
          list.each_with_index.filter_map do |item, index|
            yield item
          rescue Malformed => e
            reader.problem([key, index], e.code, **e.numbers)
          end.uniq(&:to_s).freeze
        end
      end
    end

    DUTY = Form.new(Duty) do
      parsed(:percent, required: true) do |text|
        Percentage.parse(text).tap { |found| raise Malformed, :out_of_percent unless found.value.between?(0, 100) }
      end
      money :below
      flag :carriage, default: false
      flag :included, default: false
    end

    ZONE = Form.new(Zone) do
      text :id
      text :name
      flag :active, default: true
      field(:areas, write: ->(areas) { areas.map { |area| AreaForm.write(area) } }) do |reader, _|
        reader.items("areas").map { |item| AreaForm.read(item) }.freeze
      end
      text :nothing_text, required: false, most: 500
      object :duty, DUTY
    end

    # Named sets of areas, as the columns of a grid.
    module AreaSetsForm
      class << self
        # @return [AreaSets]
        def read(reader, most)
          names = []
          lists = reader.list("areas", most: most) do |item|
            names << item.text("name", most: 60)
            areas = item.items("areas", most: 300).map { |area| AreaForm.read(area) }
            item.problem("areas", :missing) if areas.empty? && item.given?("areas")
            areas
          end
          reader.problem("areas", :missing) if lists.empty?
          reader.finish
          AreaSets.new(names, lists)
        end

        # @return [Hash] for JSON
        def write(sets)
          { "areas" => sets.names.zip(sets.lists).map do |name, areas|
            { "name" => name, "areas" => areas.map { |area| AreaForm.write(area) } }
          end }
        end
      end
    end
  end
end
