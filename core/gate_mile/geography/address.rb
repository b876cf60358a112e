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

    UNKNOWN = new(lines: [].freeze)

    # @return [Hash] for JSON; what is not known is left out
    def dump
      { "country" => country, "region" => region, "postcode" => postcode, "lines" => lines }
        .reject { |_, value| value.nil? || value == [] }
    end
  end
end
