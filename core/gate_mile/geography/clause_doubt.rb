# frozen_string_literal: true

module GateMile
  # A clause that can be read and yet matches no address of its country, and what was probably meant by it.
  #
  # code: :never_matches or :other_country; meant: the clause that was probably meant, or nil; country: the one whose
  # postcodes these are, or nil.
  class ClauseDoubt < Value.of(:code, :meant, :country)
    DASHED = /\A\s*([^\s\-‐‑‒–—―]{1,12})\s*[-‐‑‒–—―]\s*([^\s\-‐‑‒–—―]{1,12})\s*\z/
    # Letters that are taken for figures.
    LOOKS = %w[OQILZSGB 00112568].freeze
    private_constant :DASHED, :LOOKS

    class << self
      # @param typed [String]
      # @param clause [Clause] what it was read as
      # @param country [String]
      # @return [ClauseDoubt, nil] nil where it matches something
      def of(typed, clause, country)
        elsewhere = elsewhere(clause, country)
        return new(code: :other_country, country: elsewhere) if elsewhere
        return unless dead?(clause, country)

        new(code: :never_matches, meant: [range(typed), figures(clause)].compact.find { |text| alive?(text, country) })
      end

      private

      def dead?(clause, country) = !Postcode.begins?(country, clause.key) && Samples.of(clause, country).empty?

      # Postcodes of the Crown Dependencies never count as British ones.
      def elsewhere(clause, country)
        return unless country == "GB"

        area = clause.key[/\A[A-Z]{1,2}/]
        Territories::BY_POSTCODE[area] if clause.key.match?(/\A[A-Z]{2}(?![A-Z@])/)
      end

      # "1000-1999": a range is written with "to", because postcodes have hyphens of their own.
      def range(typed)
        first, last = DASHED.match(typed)&.captures
        last && "#{first.upcase} to #{last.upcase}"
      end

      def figures(clause) = clause.kind == :code ? clause.text.tr(*LOOKS) : nil

      def alive?(text, country)
        clause = Clause.parse(text, country)
        elsewhere(clause, country).nil? && !dead?(clause, country)
      rescue Malformed
        false
      end
    end
  end
end
