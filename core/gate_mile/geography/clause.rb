# frozen_string_literal: true

module GateMile
  # One postcode clause: a full postcode or a short code that stands for all below it (:code), a pattern in which # is
  # any digit and @ any letter (:pattern), or a range of equal-length numbers or of districts (:range).
  #
  # text: the clause as it is kept and shown; key: what is compared (the code, the pattern, or the letters and the
  # number of digits of a range); from, to: the numbers of a range.
  class Clause < Value.of(:kind, :text, :key, :from, :to)
    LONGEST = 20
    # Characters of a clause as it is typed, a range with its spaces.
    TYPED = 60
    RANGE = /\s+TO\s+/i
    PART = /\A([A-Z]*)(\d{1,10})\z/
    # What most clauses of a long list look like.
    PLAIN = /\A[A-Z0-9]{1,#{LONGEST}}\z/o
    private_constant :TYPED, :RANGE, :PART, :PLAIN

    class << self
      # @param text [String] e.g. "PA20", "IV#", "1000 to 1999", "PA20 to PA49"
      # @param country [String] ISO 3166-1 code: British districts count, elsewhere characters do
      # @return [Clause]
      # @raise [Malformed] :bad_clause, :only_wildcards, :range_backwards, :range_lengths, :range_letters
      def parse(text, country)
        return code(Postcode.bare(country, text)) if PLAIN.match?(text)
        raise Malformed, :bad_clause if text.to_s.length > TYPED

        first, last = text.to_s.strip.split(RANGE, 2)
        return range(plain(first, country), plain(last, country), country) if last

        single(text, country)
      end

      # A part of a range: its group, in which numbers compare, and its number.
      # @param code [String] a level of a {Postcode}
      # @param structured [Boolean] British districts: as many digits as there are
      # @return [Array(String, Integer), nil]
      def group(code, structured)
        # Dublin 6W is a routing key among the numbered ones.
        return ["D2", 6] if code == "D6W" && !structured

        found = PART.match(code) or return
        [structured ? found[1] : "#{found[1]}#{found[2].length}", found[2].to_i]
      end

      private

      def plain(text, country) = Postcode.bare(country, Postcode.normalise(text))

      def single(text, country)
        sector = sector(text, country) and return code(sector)
        written = plain(text, country)
        raise Malformed, :bad_clause unless written.match?(/\A[A-Z0-9#@]{1,#{LONGEST}}\z/o)

        written.match?(/[#@]/) ? pattern(written) : code(written)
      end

      # A British sector is written apart: PA2 0 is no PA20.
      def sector(text, country)
        return unless Postcode.structured?(country)

        british = BritishCode.read(Postcode.parts(text))
        british.sector if british.state == :unfinished && british.inward.length == 1
      end

      def code(text) = new(kind: :code, text: text, key: text)

      def pattern(code)
        raise Malformed, :only_wildcards if code.match?(/\A[#@]+\z/)

        new(kind: :pattern, text: code, key: code)
      end

      def range(first, last, country)
        structured = Postcode.structured?(country)
        low, high = [first, last].map { |part| PART.match(part) or raise Malformed, :bad_range }
        from, to = [low, high].map { |part| part[2].to_i }
        raise Malformed, :range_backwards if from > to && low[1] == high[1]
        raise Malformed, :range_letters if low[1] != high[1] || (structured && low[1].empty?)
        raise Malformed, :range_lengths if !structured && low[2].length != high[2].length

        new(kind: :range, text: "#{first} to #{last}", key: group(first, structured).first, from: from, to: to)
      end
    end

    # @return [String] as it is kept and shown
    def to_s = text

    # @param postcode [Postcode]
    # @return [Boolean] by plain reading; a zone's index answers the same question for all its clauses at once
    def match?(postcode, structured)
      case kind
      when :code then postcode.codes.include?(key)
      when :pattern then postcode.levels.any? { |level| Clause.fits?(key, level) }
      else postcode.levels.any? { |level| in_range?(level, structured) }
      end
    end

    # Whether a beginning of a postcode, as far as it is known, may yet become one that the clause matches.
    # @param postcode [Postcode] a partial one
    # @param country [String]
    # @return [Boolean]
    def may_match?(postcode, country)
      return may_match_british?(postcode.british, country) if postcode.british

      known = postcode.text
      return deeper_range?(known) if kind == :range

      key.length > known.length && Clause.fits?(key[0, known.length], known)
    end

    # @param pattern [String]
    # @param code [String]
    # @return [Boolean] character by character
    def self.fits?(pattern, code)
      pattern.length == code.length && pattern.each_char.zip(code.each_char).all? do |wanted, given|
        case wanted
        when "#" then given.match?(/[0-9]/)
        when "@" then given.match?(/[A-Z]/)
        else wanted == given
        end
      end
    end

    private

    def in_range?(level, structured)
      group, number = Clause.group(level, structured)
      group == key && number.between?(from, to)
    end

    # What lies below the known part is open: districts below an area, below a district "EC1A" (of "EC1") and what has
    # an inward code.
    def may_match_british?(known, country)
      return kind == :range && deeper_range?(known.area) if known.district.nil? && kind == :range
      return false if kind == :range
      return known.above?(Postcode.of(country, key).british) if kind == :code

      known.inward ? inward_fits?(known) : below?(known.outward, !known.district.nil?)
    end

    # A pattern that goes on where an area or a district ends.
    def below?(known, district)
      rest = key[known.length..].to_s
      return false if rest.empty? || !Clause.fits?(key[0, known.length], known)

      rest.match?(district ? /\A[A-Z@]?([0-9#][A-Z@]{2})?\z/ : /\A[0-9#]/)
    end

    def inward_fits?(known)
      inward = key[-3..].to_s
      inward.match?(/\A[0-9#][A-Z@]{2}\z/) && Clause.fits?(key[0...-3], known.outward) &&
        Clause.fits?(inward[0, known.inward.length], known.inward)
    end

    # The digits that are known, against the beginnings of the range's ends.
    def deeper_range?(known)
      first, last = text.split(" to ")
      return false if known.length >= first.length

      letters = first[/\A[A-Z]*/]
      return letters.start_with?(known) if known.length <= letters.length
      return 6.between?(from, to) if known == "D6" && key == "D2"
      return false unless first.length == last.length

      known.between?(first[0, known.length], last[0, known.length])
    end
  end
end
