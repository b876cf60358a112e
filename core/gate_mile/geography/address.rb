# frozen_string_literal: true

module GateMile
  # Where something goes or comes from, as far as it is known: each field may be nil.
  #
  # country: ISO 3166-1 alpha-2 code; region, postcode: as written; lines: street lines.
  class Address < Value.of(:country, :region, :postcode, :lines)
    # What follows a word for a box that has a number: the line's end, a figure, a word for "number", or letters and a
    # figure ("Box N-123").
    NUMBERED = /(?=[\s.,:#-]*(?:\z|\d|n[or°º]?\.?\s*\d|num|[a-z]{1,3}[\s-]?\d))/
    # Post office boxes as they are written on several shores, in lines without accents and capitals (common practice,
    # no source): "PO Box 12", "P O B 12", "PO BOX12", "P.O.Box", "P/O Box", "Post Office Box 9", "GPO Box", "BP 12",
    # "Boîte postale", "Case postale", "Caixa postal", "Casella postale", "Apartado", "Postfach", "Postboks", "Postbus",
    # "Private Bag", "Skrytka pocztowa", "Postafiók", "Postilokero", "Τ.Θ. 12", "а/я 12", "私書箱". Places are called Box
    # too: a comma before it, or another word behind it ("The Old Post Office, Box Hill 3"), makes it none. "BP" counts
    # with its figure and not as the name of a block or unit.
    BOX = %r{\b(?:g[\s./]*)?p[\s./]*o[\s./-]*box(?![a-z])(?!\s+(?!num)[a-z]{4,})|
             \bpost[\s-]?office[\s-]?box(?![a-z])#{NUMBERED}|
             \bp[\s.]*o[\s.]*b[\s.:#-]*\d|
             \bpost[\s-]?box(?![a-z])(?=\W*(?:\z|\d|n[or]\b))|\b(?:private|locked)[\s-]?(?:mail[\s-]?)?bag\b|
             \b(?:boite|case|box|casella)[\s-]?postale\b|\bc(?:ai)?xa?\.?[\s-]?postal\b|\bap(?:arta)?do\b|\baptdo\b|
             \bpostfach\b|\bpostboks\b|\bpostbus\b|\bpostilokero\b|\bpostafiok\b|\bskrytka\s+poczt|\bskr\.\s?poczt|
             \bpostanski\s+pretinac\b|\bpostni\s+predal\b|\bcasuta\s+postala\b|\bposta\s+kutusu\b|\bpostkast\b|
             \bτ\.?\s?θ\.?\s?\d|ταχ(?:υδρομικη|\.)\s?θυριδα|(?<!\p{L})а/я(?!\p{L})|абонентский\s+ящик|
             私書箱|邮政信箱|郵政信箱|#{"사서함".unicode_normalize(:nfkd)}|
             (?<!block\s)(?<!unit\s)(?<!flat\s)(?<!suite\s)(?<!gate\s)(?<!bay\s)(?<!plot\s)
             \bb(?:p|\.\s?p)\.?\s?(?:n[or]?\.?\s?)?\d}x
    # Short forms that mean a box in some countries and something else in others (common practice, no source).
    SHORT = { "SE" => /\A\s*box\s?\d/, "FI" => /\bpl\.?\s?\d/, "AX" => /\bpb\.?\s?\d/, "NO" => /\bpb\.?\s?\d/,
              "DE" => /\bpf\.?\s?\d/, "AT" => /\bpf\.?\s?\d/, "HU" => /\bpf\.?\s?\d/, "TR" => /\bp\.?\s?k\.?\s?\d/,
              "CH" => /\bc\.?\s?p\.?\s?\d/, "IT" => /\bc\.?\s?p\.?\s?\d/, "CA" => /\bc\.?\s?p\.?\s?\d/,
              "BG" => /\bп\.?\s?к\.?\s?\d/, "HR" => /\bp\.?\s?p\.?\s?\d/, "SI" => /\bp\.?\s?p\.?\s?\d/ }.freeze
    BLANK = /\A[\s\p{Z}\p{Cf}]*\z/
    FORCES = /\b(?:bfpo\s*\d|[afd]po\s+(?:ae|ap|aa)|(?:psc|cmr|unit)\s+\d+.*\bbox\s+\d)/i
    private_constant :NUMBERED, :BOX, :SHORT, :FORCES, :BLANK

    # @return [Array<String>] the lines that say something: blank ones are no street
    def street = lines.to_a.grep_v(BLANK)

    # @return [Boolean] whether the street lines name a post office box
    def po_box? = street.any? { |line| box?(Address.plain(line)) } && !military?

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

    def box?(line) = line.match?(BOX) || (SHORT.key?(country) && line.match?(SHORT.fetch(country)))

    def kind_of_street
      return "BFPO 1" if street.any? { |line| line.match?(FORCES) }

      po_box? ? "PO Box 1" : "A street"
    end
  end
end
