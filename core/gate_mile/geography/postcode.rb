# frozen_string_literal: true

module GateMile
  # A postcode as it is compared: upper case, without spaces and punctuation, and cut into the levels at which a clause
  # can meet it. British ones have structure ({BritishCode}); of all others every beginning is a level.
  class Postcode
    # Forms of postcodes in the notation of clauses: # a digit, @ a letter, * either. Published by the postal operators;
    # held against the countries gem in the tests.
    FORMS = {
      "###" => %w[FO GN IS LS MG PG AD],
      "####" => %w[AF AL AM AT AU AZ BD BE BG CH CV CY DK ET GE GW HM HT HU LI LR LU LV MD ME MK MZ NE NO NZ PH SI SJ TN
                   VC VE VG ZA],
      "#####" => %w[AS AX BA BL BT CU CZ DE DO DZ EE EG EH ES FI FM FR GF GP GR GT GU HN HR ID IQ IT JO KE KR KW LA LK
                    LT MA MC MF MH MM MN MO MP MQ MV MX MY NA NC NI NP PF PK PL PM PR PW RE SA SD SE SK SM SN TH TR UA
                    UM US UY VA VI WF YT ZM],
      "######" => %w[BY CN CO EC IN KG KZ NG PY RO RU SG TJ TM UZ],
      "#######" => %w[CL JP PT], "########" => %w[BR], "##########" => %w[IR],
      "####@@" => %w[NL], "@#@#@#" => %w[CA], "@#*****" => %w[IE], "@@####" => %w[BN], "@@@####" => %w[MT],
      "@@#####" => %w[SO], "@###" => %w[SZ]
    }.flat_map { |form, countries| countries.map { |country| [country, form] } }.to_h.freeze
    CLASSES = { "#" => "[0-9]", "@" => "[A-Z]", "*" => "[A-Z0-9]" }.freeze
    PATTERNS = FORMS.transform_values { |form| Regexp.new("\\A#{form.gsub(/[#@*]/, CLASSES)}\\z") }.freeze
    # The beginnings of each form, by their length: what most clauses of a long list are.
    BEGINNINGS = FORMS.values.uniq.to_h do |form|
      [form, (0..form.length).map { |length| Regexp.new("\\A#{form[0, length].gsub(/[#@*]/, CLASSES)}\\z") }]
    end.freeze
    private_constant :PATTERNS, :BEGINNINGS
    # United States ZIP codes with their four extra digits: the first five decide.
    NINE = /\A(\d{5})\d{4}\z/
    ZIPS = %w[US AS GU MP PR UM VI FM MH PW].freeze
    # What some countries put in front of their postcodes in place of their ISO code (common practice, no source).
    SIGNS = { "DE" => "D", "AT" => "A", "FR" => "F", "BE" => "B", "LU" => "L", "IT" => "I", "ES" => "E", "SE" => "S",
              "NO" => "N", "FI" => "FIN" }.freeze
    # Countries with postcodes that begin with a zero, which a spreadsheet takes away (from memory).
    ZEROS = %w[AM AU BR CN CO DE DK EC ES FI FR GE IT JP KE KR KZ MX MY NO NZ PE PR RO SG SK TR UA US VA VI ZA].freeze
    private_constant :NINE, :ZIPS, :SIGNS, :ZEROS

    STRUCTURED = %w[GB IM JE GG].freeze
    # Spaces of every kind, marks that are not seen, the punctuation between the parts of a postcode, and the Japanese
    # sign in front of one.
    BETWEEN = /[\s\p{Z}\p{Cf}.,\-‐‑‒–—―−_〒〶]+/
    private_constant :BETWEEN

    # @return [String] the normalised text
    attr_reader :text
    # @return [Array<String>] the codes that stand for this postcode, from the widest to the narrowest
    attr_reader :levels
    # @return [BritishCode, nil] its parts, where it has structure
    attr_reader :british

    # @param country [String]
    # @return [Boolean] whether its postcodes are matched by structure, as the British are
    def self.structured?(country) = STRUCTURED.include?(country)

    # @param text [String, nil]
    # @return [Array<String>] its parts as they were written apart: upper case, full-width figures and letters as plain
    #   ones
    def self.parts(text)
      text = text.to_s
      text = text.unicode_normalize(:nfkc) unless text.ascii_only?
      text.upcase.split(BETWEEN).reject(&:empty?)
    end

    # @param text [String, nil]
    # @return [String] the same, written together
    def self.normalise(text) = parts(text).join

    # Takes away what a country's postcodes are written with and compared without: its own code in front ("LV-1010"),
    # the four extra digits of a ZIP code. Clauses and addresses are read by it alike.
    # @param country [String]
    # @param text [String] normalised
    # @return [String]
    def self.bare(country, text)
      if FORMS[country]&.start_with?("#")
        sign = [country, SIGNS[country]].find { |one| one && text.start_with?(one) && text.length > one.length }
        text = text.delete_prefix(sign) if sign
      end
      ZIPS.include?(country) && NINE.match(text) ? Regexp.last_match(1) : text
    end

    # Puts back the zero in front that a spreadsheet has taken away: where a postcode is one digit short and would be
    # one with it.
    # @param country [String]
    # @param text [String] bare
    # @param parts [Array<String>] as it was written: of a ZIP code with its four extra digits, two
    # @return [String] the same object where nothing is missing
    def self.restored(country, text, parts)
      form = FORMS[country]
      return text unless ZEROS.include?(country) && form&.delete("#")&.empty?
      return "0#{parts.first}" if ZIPS.include?(country) && parts.size == 2 && parts.all?(/\A\d{4}\z/)

      text.length == form.length - 1 && text.match?(/\A\d+\z/) ? "0#{text}" : text
    end

    # @param country [String]
    # @param text [String, nil]
    # @param restoring [Boolean] whether a zero that may have been lost is put back
    # @return [Postcode, nil] nil where nothing is written
    def self.of(country, text, restoring: true)
      parts = parts(text)
      parts.empty? ? nil : new(country, parts, restoring: restoring)
    end

    # @param country [String]
    # @return [Regexp, nil] what its postcodes look like; nil where that is not known here
    def self.form(country)
      structured?(country) ? BritishCode::FULL : PATTERNS[country]
    end

    # @param country [String]
    # @param text [String] normalised
    # @return [Boolean] whether a postcode of the country, where its form is known, can begin with it
    def self.begins?(country, text)
      form = FORMS[country]
      !form.nil? && text.length <= form.length && BEGINNINGS.fetch(form)[text.length].match?(text)
    end

    # @param country [String]
    # @param parts [Array<String>] normalised, as they were written apart
    # @param restoring [Boolean]
    def initialize(country, parts, restoring: true)
      @country = country
      @british = BritishCode.read(parts) if Postcode.structured?(country)
      written = @british ? @british.text : Postcode.bare(country, parts.join)
      @text = restoring ? Postcode.restored(country, written, parts) : written
      @lost_zero = !@text.equal?(written)
      @levels = (@british ? @british.levels : (1..@text.length).map { |length| @text[0, length] }).freeze
      @partial = @british ? @british.partial? : beginning?
      freeze
    end

    # @return [Array<String>] what a clause that is a plain code may be: the levels, and a British sector ("PA2 0")
    def codes = british&.sector ? [*levels, british.sector] : levels

    # @return [Boolean] whether it has the form of its country's postcodes (true where none is known)
    def well_formed?
      form = Postcode.form(@country)
      form.nil? || form.match?(text)
    end

    # @return [Boolean] whether more of it could be known, so that a narrower clause may still apply
    def partial? = @partial

    # @param known [Postcode] the beginning of one
    # @return [Boolean] whether this one goes on where that one ends
    def below?(known) = british ? known.british.above?(british) : text.start_with?(known.text)

    # @return [Boolean] whether it is neither a postcode of its country nor the beginning of one
    def malformed? = !well_formed? && !(british ? british.beginning? : partial?)

    # @return [Boolean] whether it goes beyond the outward code and is not finished: "IV1 1A"
    def unfinished? = !british.nil? && british.state == :unfinished

    # @return [Boolean] whether it was one digit short and was given a zero in front: "2134" is 02134
    def lost_zero? = @lost_zero

    private

    def beginning?
      text.length < FORMS[@country].to_s.length && Postcode.begins?(@country, text)
    end
  end
end
