# frozen_string_literal: true

module GateMile
  # Where something goes or comes from, as far as it is known: each field may be nil.
  #
  # country: ISO 3166-1 alpha-2 code; region, postcode: as written; lines: street lines.
  class Address < Value.of(:country, :region, :postcode, :lines)
    # Post office boxes as they are written on several shores, in lines without accents and capitals (common practice,
    # no source): "PO Box 12", "P.O. Box", "P/O Box", "POB 12", "Post Office Box", "GPO Box", "BP 12", "Boîte postale",
    # "Case postale", "Caixa postal", "Casella postale", "Apartado", "Postfach", "Postboks", "Postbus", "Private Bag".
    # "BP" counts with its figure and not as the name of a block or unit; "post box" only where a number or nothing
    # follows, so that a cottage may be called so.
    BOX = /\b(?:g\W?p\W?o|p\W{0,2}o|post\W?office)\W{0,2}box\b|\bp\.?o\.?b\.?\s?\d|
             \bpost\W?box(?=\W*(?:\z|\d|n[or]\b))|\b(?:private|locked)\W?(?:mail\W?)?bag\b|
             \b(?:boite|case|box|casella)\W?postale\b|\bcaixa\W?postal\b|\bapartado\b|\bapdo\b|
             \bpostfach\b|\bpostboks\b|\bpostbus\b|\bpostilokero\b|
             (?<!block\s)(?<!unit\s)(?<!flat\s)(?<!suite\s)(?<!gate\s)(?<!bay\s)(?<!plot\s)
             \bb(?:p|\.\s?p)\.?\s?(?:n[or]?\.?\s?)?\d/x
    BLANK = /\A[\s\p{Z}\p{Cf}]*\z/
    FORCES = /\b(?:bfpo\s*\d|[afd]po\s+(?:ae|ap|aa)|(?:psc|cmr|unit)\s+\d+.*\bbox\s+\d)/i
    private_constant :BOX, :FORCES, :BLANK

    # @return [Array<String>] the lines that say something: blank ones are no street
    def street = lines.to_a.grep_v(BLANK)

    # @return [Boolean] whether the street lines name a post office box
    def po_box? = street.any? { |line| Address.plain(line).match?(BOX) } && !military?

    # @param line [String]
    # @return [String] in small letters, without accents, its spaces all alike
    def self.plain(line)
      line = line.unicode_normalize(:nfkd).gsub(/\p{Mn}/, "") unless line.ascii_only?
      line.downcase.gsub(/[\s\p{Z}\p{Cf}]+/, " ")
    end

    # @return [Boolean] whether it is military mail: by its lines, its region (United States) or its postcode (British)
    def military?
      american = country == "US" && Regions::MILITARY.include?(region.to_s.upcase.delete_prefix("US-"))
      british = country == "GB" && Postcode.normalise(postcode).match?(/\A(BF\d|BFPO)/)
      american || british || street.any? { |line| line.match?(FORCES) }
    end

    # @return [Address] the same to every price, without the street: of that only stands whether it is known, a post
    #   office box, or military mail
    def shortened
      return self if lines.nil? || lines.empty?

      with(lines: street.empty? ? [] : [kind_of_street])
    end

    UNKNOWN = new(lines: [].freeze)

    private

    def kind_of_street
      return "BFPO 1" if street.any? { |line| line.match?(FORCES) }

      po_box? ? "PO Box 1" : "A street"
    end
  end
end
