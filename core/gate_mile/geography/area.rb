# frozen_string_literal: true

module GateMile
  # A part of the world that a zone covers: the whole world, a country, or chosen regions of a country; the last two
  # perhaps narrowed by postcode clauses.
  #
  # kind: :world, :country or :regions; country: ISO 3166-1 code; regions: codes of {Regions}; only: {Clause}s of which
  # one must match, empty for all; except: {Clause}s of which none may match.
  class Area < Value.of(:kind, :country, :regions, :only, :except)
    KINDS = %w[world country regions].freeze
    MOST_CLAUSES = 200_000
    NONE = [].freeze
    private_constant :NONE

    class << self
      # @param reader [Reader]
      # @return [Area]
      def read(reader)
        kind = reader.choice("kind", among: KINDS)
        return unnarrowed(reader, kind) if kind.nil? || kind == "world"

        country = reader.parsed("country") { |text| Countries.parse(text) }
        new(kind: kind&.to_sym, country: country, regions: kind == "regions" ? regions(reader, country) : NONE,
            only: clauses(reader, "only", country), except: clauses(reader, "except", country))
      end

      private

      # The world has neither regions nor clauses; of an unknown kind nothing more is told than that.
      def unnarrowed(reader, kind)
        %w[country regions only except].each { |key| reader.given?(key, read: true) } if kind.nil?
        new(kind: kind&.to_sym, regions: NONE, only: NONE, except: NONE)
      end

      def regions(reader, country)
        list = reader.values("regions", most: 500)
        reader.problem("regions", :missing) if list.empty? && reader.given?("regions")
        each(reader, "regions", list) { |code| Regions.parse(country, code) if country }
      end

      def clauses(reader, key, country)
        list = reader.values(key, required: false, most: MOST_CLAUSES)
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

    # @return [Boolean] whether postcodes decide it
    def clauses? = only.any? || except.any?

    # @return [Hash] for JSON; what is empty is left out
    def dump
      { "kind" => kind.to_s, "country" => country, "regions" => regions, "only" => only.map(&:text),
        "except" => except.map(&:text) }.reject { |_, value| value.nil? || value.empty? }
    end
  end
end
