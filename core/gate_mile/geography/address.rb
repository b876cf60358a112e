# frozen_string_literal: true

module GateMile
  # Where something goes or comes from, as far as it is known: each field may be nil.
  #
  # country: ISO 3166-1 alpha-2 code; region, postcode: as written; lines: street lines.
  class Address < Value.of(:country, :region, :postcode, :lines)
    # @param reader [Reader]
    # @return [Address]
    def self.read(reader)
      new(
        country: reader.parsed("country", required: false) { |text| Countries.parse(text) },
        region: reader.text("region", required: false),
        postcode: reader.text("postcode", required: false, most: 20),
        lines: read_lines(reader)
      ).tap { reader.finish }
    end

    def self.read_lines(reader)
      lines = reader.values("lines", required: false, most: 6)
      bad = lines.index { |line| !line.is_a?(String) || line.length > Reader::NAME_LENGTH }
      bad ? reader.problem("lines", :bad_line, line: bad + 1) || [] : lines
    end
    private_class_method :read_lines

    # Post office boxes as they are written on several shores: "PO Box 12", "P.O. Box", "POB 12", "Post Office Box",
    # "Postfach", "BP 12", "Boîte postale", "Apartado", "Postbus", "Casella postale", "GPO Box", "Locked Bag".
    BOX = /\b(?:p\.?\s?o\.?\s*box|p\.?o\.?b\.?\s*\d|post\s+office\s+box|g\.?p\.?o\.?\s*box|postfach|postbus|
               bo[iî]te\s+postale|b\.?\s?p\.?\s*\d|apartado|apdo|casella\s+postale|box\s+postale|locked\s+bag)/xi
    FORCES = /\b(?:bfpo\s*\d|[afd]po\s+(?:ae|ap|aa)|(?:psc|cmr|unit)\s+\d+.*\bbox\s+\d)/i
    private_constant :BOX, :FORCES

    # @return [Boolean] whether the street lines name a post office box
    def po_box? = lines.to_a.any? { |line| line.match?(BOX) } && !military?

    # @return [Boolean] whether it is military mail: by its lines, its region (United States) or its postcode (British)
    def military?
      american = country == "US" && Regions::MILITARY.include?(region.to_s.upcase.delete_prefix("US-"))
      british = country == "GB" && Postcode.normalise(postcode).match?(/\A(BF\d|BFPO)/)
      american || british || lines.to_a.any? { |line| line.match?(FORCES) }
    end

    UNKNOWN = new(lines: [].freeze)

    # @return [Hash] for JSON; what is not known is left out
    def dump
      { "country" => country, "region" => region, "postcode" => postcode, "lines" => lines }
        .reject { |_, value| value.nil? || value == [] }
    end
  end
end
