# frozen_string_literal: true

module GateMile
  # A British postcode by its structure, as Royal Mail publishes it: an area of one or two letters, a district of one or
  # two figures or a figure and a letter, a space, and an inward code of a figure (the sector) and two letters. What is
  # malformed as a whole still has its outward part read, where that part is well-formed: nothing is ever read by its
  # characters alone, so that BT9 with a slip behind it is never in Birmingham (B).
  #
  # state: :whole; :outward (an area or an outward code); :unfinished (part of the inward code is there); :malformed, of
  # which something is known; :unread, of which nothing is. area, district, outward: codes or nil; inward: what is known
  # of it; text: written together.
  class BritishCode < Value.of(:state, :area, :district, :outward, :inward, :text)
    AREA = /[A-Z]{1,2}/
    DISTRICT = /\d[A-Z]|\d{1,2}/
    FULL = /\A((#{AREA})(#{DISTRICT}))(\d[A-Z]{2})\z/
    OUTWARD = /\A(#{AREA})(#{DISTRICT})?\z/
    UNFINISHED = /\A((#{AREA})(#{DISTRICT}))(\d[A-Z]?)\z/
    BEGUN = /\A\d[A-Z]?\z/
    # An inward code in which a letter stands where a figure of the same look belongs (common practice, no source).
    SLIP = /\A[OQDILZSGTB\d][A-Z0-9]{2}\z/
    private_constant :AREA, :DISTRICT, :OUTWARD, :UNFINISHED, :BEGUN, :SLIP

    class << self
      # @param parts [Array<String>] as they were written apart, upper case
      # @return [BritishCode]
      def read(parts)
        text = parts.join
        if (found = FULL.match(text)) then outward(:whole, found[1], found[4])
        elsif parts.size > 1 && BEGUN.match?(parts.last) && district?(parts[0..-2].join)
          outward(:unfinished, parts[0..-2].join, parts.last)
        elsif OUTWARD.match?(text) then outward(:outward, text, nil)
        elsif (found = UNFINISHED.match(text)) then outward(:unfinished, found[1], found[4])
        else slipped(parts, text)
        end
      end

      private

      def district?(text) = OUTWARD.match(text)&.[](2)

      def outward(state, code, inward, text = "#{code}#{inward}")
        found = OUTWARD.match(code)
        new(state: state, area: found[1], district: found[2] && (found[1] + found[2][/\d+/]), outward: code,
            inward: inward, text: text)
      end

      # What is written apart says where the outward part ends; else an inward part of three signs with a slip in it
      # does.
      def slipped(parts, text)
        apart = parts[0..-2].join
        return outward(:malformed, apart, nil, text) if parts.size > 1 && district?(apart)

        rest = text[0...-3].to_s
        return outward(:malformed, rest, nil, text) if SLIP.match?(text[-3..].to_s) && district?(rest)

        area = text[/\A(#{AREA})(?=\d)/o, 1]
        return new(state: :unread, text: text) if area.nil?

        new(state: :malformed, area: area, outward: area, text: text)
      end
    end

    # @return [Array<String>] from the widest to the narrowest
    def levels
      own = [area, district, outward, (text unless state == :unfinished)].compact.uniq
      own.empty? ? [text] : own
    end

    # @return [String, nil] "PA2 0", where the inward code has begun
    def sector = inward && "#{outward} #{inward[0]}"

    # @return [Boolean] whether more of it could be known
    def partial? = %i[outward unfinished malformed].include?(state)

    # @return [Boolean] whether it is the beginning of a well-formed one
    def beginning? = %i[outward unfinished].include?(state)

    # @param other [BritishCode] of a clause
    # @return [Boolean] whether the other one lies below what is known of this one
    def above?(other)
      return false unless outward && other.levels.include?(outward)
      return other.text != outward if inward.nil?

      other.state == :whole && other.outward == outward && other.inward.start_with?(inward)
    end
  end
end
