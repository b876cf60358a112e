# frozen_string_literal: true

module Server
  # A refusal, told as problem details (RFC 9457): status, title, and for each bad field a JSON Pointer into the body.
  class Problem < StandardError
    TITLES = {
      400 => "This can't be read", 401 => "Not let in", 403 => "Not allowed", 404 => "Not here",
      405 => "Not like this", 409 => "Changed in the meantime", 413 => "Too large", 414 => "Too long",
      415 => "Not JSON", 422 => "Something needs correcting",
      429 => "Too often",
      500 => "Something went wrong here", 503 => "Busy for a moment", 507 => "No room"
    }.freeze
    # Columns that the contract calls by another name.
    FIELDS = { shipping_method_id: :method, zone_id: :zone }.freeze
    private_constant :FIELDS
    TYPE = "application/problem+json"
    MISTAKE = "The server made a mistake. Nothing was changed."

    # @return [Integer]
    attr_reader :status
    # @return [Hash] its members
    attr_reader :body

    # @param status [Integer] an HTTP status
    # @param detail [String]
    # @param errors [Array<Hash>] `{ pointer:, code:, detail: }` each
    # @param retry_after [Integer, nil] seconds after which to try again
    # @param headers [Hash] that belong to the status
    # @param extra [Hash] further members, e.g. what stands there now
    def initialize(status, detail, errors: [], retry_after: nil, headers: {}, **extra)
      @status = status
      @retry_after = retry_after
      @headers = headers
      @body = { type: "about:blank", title: TITLES.fetch(status), status: status, detail: detail, errors: errors,
                **extra }
      super(detail)
    end

    # @param pointer [String]
    # @return [Problem] the same, of a document that stands deeper in the body
    def under(pointer)
      errors = @body[:errors].map { |error| error.merge(pointer: pointer + error[:pointer]) }
      Problem.new(status, message, errors: errors)
    end

    # @return [String] JSON
    def to_json(*) = JSON.generate(@body)

    # @return [Array] a Rack response
    def response
      headers = { "content-type" => TYPE, "cache-control" => "no-store", **@headers }
      headers["retry-after"] = @retry_after.to_s if @retry_after
      [status, headers, [to_json]]
    end

    class << self
      # @return [Problem] somebody else has held the write lock for longer than anybody should wait
      def busy
        new(503, "The database is busy. Try again in a moment. Nothing was changed.", retry_after: 1)
      end

      # @param error [StandardError]
      # @return [Problem, nil] nil where it is not that nothing can be written
      def unwritable(error)
        case Database.trouble(error)
        when :full then new(507, "The disk is full. Nothing was changed.")
        when :read_only
          new(503, "The database can't be written. Nothing was changed.", retry_after: 30)
        when :damaged
          new(503, "The database is damaged. Nothing was changed. Bring back a backup.", retry_after: 60)
        end
      end

      # One thing that is wrong, in its own sentence.
      # @param pointer [String]
      # @param code [Symbol, String] of {Words}
      # @param numbers [Hash] what the sentence names
      # @return [Problem] 422
      def at(pointer, code, **numbers)
        detail = Words.of(code.to_sym, **numbers)
        new(422, detail, errors: [{ pointer: pointer, code: code.to_s, detail: detail }])
      end

      # @param invalid [GateMile::Invalid]
      # @param under [String] pointer of the document inside the body
      # @return [Problem]
      def of_invalid(invalid, under: "")
        new(422, TITLES[422], errors: invalid.problems.map do |problem|
          { pointer: under + problem.pointer, code: problem.code, detail: Words.of(problem.code, **problem.numbers) }
        end)
      end

      # @param status [Integer] of a request that could not be read
      # @return [Array] a Rack response; the connection ends with it
      def unread(status)
        said = status == 500 ? MISTAKE : "This is no request that can be read."
        problem = new(TITLES.key?(status) ? status : 400, said)
        problem.response.tap { |response| response[1] = response[1].merge("connection" => "close") }
      end

      # @param record [ActiveRecord::Base] with errors
      # @return [Problem]
      def of_record(record)
        new(422, TITLES[422], errors: record.errors.filter_map do |error|
          next if error.attribute.to_s.include?(".")

          { pointer: error.options[:pointer] || "/#{FIELDS.fetch(error.attribute, error.attribute)}",
            code: error.options[:code] || "invalid", detail: error.message,
            suggestion: error.options[:suggestion] }.compact
        end.uniq)
      end
    end
  end
end
