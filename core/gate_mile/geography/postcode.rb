# frozen_string_literal: true

module GateMile
  # A postcode as it is compared: upper case, no spaces, no hyphens, and cut into the levels at which a clause can meet
  # it. British ones have structure (area, district, outward code, full); of all others every beginning is a level.
  class Postcode
    # Forms of postcodes in the notation of clauses: # a digit, @ a letter, * either. Published by the postal operators;
    # held against the countries gem in the tests.
    FORMS = {
      "###" => %w[FO GN IS LS MG PG AD],
      "####" => %w[AF AL AM AT AU AZ BD BE BG CH CV CY DK ET GE GW HM HT HU LI LR LU LV MD ME MK MZ NE NO NZ PH SI SJ TN
                   VC VE VG ZA],
      "#####" => %w[AS AX BA BL BT CU CZ DE DO DZ EE EG EH ES FI FM FR GF GP GR GT GU HN HR ID IQ IT JO KE KR KW LA LK
                    LT MA MC MF MH MM MN MP MQ MV MX MY NA NC NI NP PF PK PL PM PR PW RE SA SD SE SK SM SN TH TR UA UM
                    US UY VA VI WF YT ZM],
      "######" => %w[BY CN CO EC IN KG KZ NG PY RO RU SG TJ TM UZ],
      "#######" => %w[CL JP PT], "########" => %w[BR], "##########" => %w[IR],
      "####@@" => %w[NL], "@#@#@#" => %w[CA], "@#*****" => %w[IE], "@@####" => %w[BN], "@@@####" => %w[MT],
      "@@#####" => %w[SO], "@###" => %w[SZ]
    }.flat_map { |form, countries| countries.map { |country| [country, form] } }.to_h.freeze
    CLASSES = { "#" => "[0-9]", "@" => "[A-Z]", "*" => "[A-Z0-9]" }.freeze
    PATTERNS = FORMS.transform_values { |form| Regexp.new("\\A#{form.gsub(/[#@*]/, CLASSES)}\\z") }.freeze
    private_constant :PATTERNS
    # United States ZIP codes with their four extra digits: the first five decide.
    NINE = /\A(\d{5})\d{4}\z/
    ZIPS = %w[US AS GU MP PR UM VI FM MH PW].freeze
    private_constant :NINE, :ZIPS

    # Outward and inward part; areas have one or two letters, districts one or two digits and perhaps a letter.
    BRITISH = /\A(([A-Z]{1,2})(\d{1,2})[A-Z]?)(\d[A-Z]{2})\z/
    OUTWARD = /\A(([A-Z]{1,2})(?:(\d{1,2})[A-Z]?)?)\z/
    STRUCTURED = %w[GB IM JE GG].freeze
    private_constant :BRITISH, :OUTWARD

    # @return [String] the normalised text
    attr_reader :text
    # @return [Array<String>] the codes that stand for this postcode, from the widest to the narrowest
    attr_reader :levels

    # @param country [String]
    # @return [Boolean] whether its postcodes are matched by structure, as the British are
    def self.structured?(country) = STRUCTURED.include?(country)

    # @param text [String]
    # @return [String] upper case, without spaces and hyphens
    def self.normalise(text) = text.to_s.upcase.gsub(/[\s\-‐–]+/, "")

    # @param country [String]
    # @param text [String, nil]
    # @return [Postcode, nil] nil where nothing is written
    def self.of(country, text)
      plain = normalise(text)
      plain.empty? ? nil : new(country, plain)
    end

    # @param country [String]
    # @return [Regexp, nil] what its postcodes look like; nil where that is not known here
    def self.form(country)
      structured?(country) ? BRITISH : PATTERNS[country]
    end

    def initialize(country, text)
      @country = country
      @text = bare(text)
      @levels = (self.class.structured?(country) ? british : beginnings).freeze
      @partial = beginning?
      freeze
    end

    # @return [Boolean] whether it has the form of its country's postcodes (true where none is known)
    def well_formed?
      form = Postcode.form(@country)
      form.nil? || form.match?(text)
    end

    # @return [Boolean] whether it is the beginning of a postcode, so that a narrower clause may still apply
    def partial? = @partial

    private

    def beginning?
      return BRITISH.match(text).nil? && OUTWARD.match?(text) if Postcode.structured?(@country)

      form = FORMS[@country]
      return false if form.nil? || text.length >= form.length

      Regexp.new("\\A#{form[0, text.length].gsub(/[#@*]/, CLASSES)}").match?(text)
    end

    def bare(text)
      text = text.delete_prefix(@country) if FORMS[@country]&.start_with?("#") && text.length > FORMS[@country].length
      ZIPS.include?(@country) && NINE.match(text) ? Regexp.last_match(1) : text
    end

    def british
      found = BRITISH.match(text) || OUTWARD.match(text)
      return beginnings if found.nil?

      [found[2], found[3] && (found[2] + found[3]), found[1], text].compact.uniq
    end

    def beginnings = (1..text.length).map { |length| text[0, length] }
  end
end
