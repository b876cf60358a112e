# frozen_string_literal: true

module GateMile
  # Postcodes that stand for a clause: the first and the last that it can match, written out to the form of its country.
  module Samples
    LOW = { "#" => "0", "@" => "A", "*" => "A" }.freeze
    HIGH = { "#" => "9", "@" => "Z", "*" => "9" }.freeze
    ENDS = { LOW => "1AA", HIGH => "9ZZ" }.freeze
    private_constant :LOW, :HIGH, :ENDS

    class << self
      # @param clause [Clause]
      # @param country [String]
      # @return [Array<Postcode>] well-formed ones; empty where the clause matches no valid postcode of the country
      def of(clause, country)
        first, last = clause.kind == :range ? ends(clause) : [clause.key, clause.key]
        [written(first, LOW, country), written(last, HIGH, country)].compact.uniq
                                                                    .map { |text| Postcode.of(country, text) }
                                                                    .select(&:well_formed?)
      end

      # The postcode right behind the last that a clause matches: with the first ones, these meet every stretch of
      # numbers that clauses cut a country into.
      # @param clause [Clause]
      # @param country [String]
      # @return [Postcode, nil] nil where none follows
      def behind(clause, country)
        last = clause.kind == :range ? ends(clause).last : clause.key
        text = written(last, HIGH, country) or return
        following = Postcode.structured?(country) ? next_district(last, text) : text.succ
        postcode = Postcode.of(country, following) if following&.length.to_i <= [text.length, 7].max
        postcode if postcode&.well_formed?
      end

      # @param coverage [Coverage]
      # @return [Postcode, nil] a postcode of the country that no "only" and no "except" clause of the coverage names
      def unnamed(coverage)
        country = coverage.country
        candidates(country).map { |text| Postcode.of(country, text) }.find { |postcode| coverage.unnamed?(postcode) }
      end

      # @param known [Postcode] the beginning of one
      # @param country [String]
      # @return [Array<Postcode>] well-formed ones that begin with it
      def below(known, country)
        texts = if known.british
                  british_below(known.british)
                else
                  candidates(country).map do |text|
                    known.text + text[known.text.length..].to_s
                  end
                end
        texts.map { |text| Postcode.of(country, text) }.select { |postcode| postcode&.well_formed? }
      end

      private

      # Of an area every district, of a district its postcodes; what is known of the inward part is kept.
      def british_below(known)
        return (1..99).map { |number| "#{known.area}#{number}9ZZ" } if known.district.nil?

        letters = known.outward.match?(/\d\d\z|[A-Z]\z/) ? [""] : ["", "A", "X"]
        letters.map { |letter| "#{known.outward}#{letter}#{known.inward}#{"9ZZ"[known.inward.to_s.length..]}" }
      end

      def ends(clause) = clause.text.split(" to ")

      # Behind a full postcode stands another of its district, behind a district the next one.
      def next_district(code, text)
        found = code.match(/\A([A-Z]{1,2})(\d{1,2})([A-Z]?)(\d[A-Z]{2})?\z/) or return
        return text.succ if found[4]
        return "#{found[1]}#{found[2]}1AA" unless found[3].empty?

        "#{found[1]}#{found[2].succ}1AA"
      end

      def written(code, fill, country)
        code = code.gsub(/[#@]/, fill)
        return british(code, fill) if Postcode.structured?(country)

        form = Postcode::FORMS[country] or return code
        return if code.length > form.length

        code + form[code.length..].gsub(/[#@*]/, fill)
      end

      def british(code, fill)
        case code
        when /\A[A-Z]{1,2}\z/ then "#{code}#{fill.equal?(LOW) ? 1 : 99}#{ENDS[fill]}"
        when /\A[A-Z]{1,2}\d{1,2}[A-Z]?\z/ then "#{code}#{ENDS[fill]}"
        when /\A[A-Z]{1,2}\d{1,2}[A-Z]? \d\z/ then "#{code}#{ENDS[fill][1..]}"
        else code
        end
      end

      def candidates(country)
        return %w[ZZ99 QQ98 XX97 QV1].map { |outward| "#{outward}9ZZ" } if Postcode.structured?(country)

        form = Postcode::FORMS[country] || "#####"
        digits = %w[9 0 7 5 3 1 8 6 4 2]
        digits.flat_map { |digit| %w[Z A Q].map { |letter| form.gsub("#", digit).gsub(/[@*]/, letter) } }.uniq
      end
    end
  end
end
