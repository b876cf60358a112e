# frozen_string_literal: true

module Server
  # The JSON body of a request, read once and within bounds.
  module Body
    # Bytes of a request, and of one with a table or a list of clauses.
    LIMIT = 1_048_576
    OF_TABLES = 8 * LIMIT
    # The most problems listed in one answer.
    MOST = 50
    NESTING = GateMile::Reader::DEEPEST + 20
    TYPE = %r{\Aapplication/json\s*(;|\z)}i
    private_constant :NESTING, :TYPE

    class << self
      # @param env [Hash] of Rack
      # @param limit [Integer] bytes
      # @return [Object] parsed JSON
      # @raise [Problem] 400, 413, 415, 422
      def of(env, limit)
        raise Problem.new(415, "Send application/json.") unless env["CONTENT_TYPE"].to_s.match?(TYPE)

        parsed = parse(text(env["rack.input"], limit))
        legible(parsed) unless GateMile::Reader.readable?(parsed)
        parsed
      end

      private

      def text(input, limit)
        text = String.new(input&.read(limit + 1) || "", encoding: Encoding::UTF_8)
        raise Problem.new(413, "Send at most #{limit / 1024} KB at once.") if text.bytesize > limit

        text.valid_encoding? ? text : raise(Problem.new(400, "The body is not UTF-8."))
      end

      def parse(text)
        JSON.parse(text, max_nesting: NESTING)
      rescue JSON::ParserError
        raise Problem.new(400, "The body is not JSON.")
      end

      # What JSON can say and nothing behind this door can take: lone surrogates, numbers beyond all bounds.
      def legible(parsed)
        problems = GateMile::Reader.unreadable(parsed).first(MOST)
        raise Problem.of_invalid(GateMile::Invalid.new(problems))
      end
    end
  end
end
