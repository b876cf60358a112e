# frozen_string_literal: true

module GateMile
  # Reads the fields of one JSON object and notes every problem at its place, so that a document with five mistakes
  # is told of five. A field that can't be read is nil.
  class Reader
    NAME_LENGTH = 120
    # Characters of a number, a measure, a postcode or any other text that is parsed: bounded before any pattern reads
    # it.
    PARSED_LENGTH = 100
    # How deep lists and objects stand in one another, at most: a rule's tree takes some twenty.
    DEEPEST = 60
    # Bits of a whole number, far above any that counts something.
    BITS = 62

    class << self
      # Opens the reader of a whole document.
      # @param document [Object] parsed JSON
      # @return [Reader]
      # @raise [Invalid] where some text in it is no valid UTF-8, or a number no finite one: nothing else can be told of
      #   it
      def open(document)
        raise Invalid, unreadable(document) unless readable?(document)

        new(document)
      end

      # @param value [Object] parsed JSON
      # @return [Boolean] whether nothing in it is {.unreadable}
      def readable?(value, depth = 0)
        return utf8?(value) if value.is_a?(String)
        return false if depth > DEEPEST

        case value
        when Hash then value.all? { |key, item| (!key.is_a?(String) || utf8?(key)) && readable?(item, depth + 1) }
        when Array then value.all? { |item| readable?(item, depth + 1) }
        when Integer then value.bit_length <= BITS
        when Float then value.finite?
        else true
        end
      end

      # @param value [Object] parsed JSON
      # @param pointer [String] where it stands
      # @return [Array<Problem>] texts that are no valid UTF-8 (a lone surrogate, a byte of another encoding), numbers
      #   that are not finite (1e400) or beyond all counting
      def unreadable(value, pointer = "", found = [], depth = 0)
        return found << Problem.new(pointer: pointer, code: :nested, numbers: { most: DEEPEST }) if depth > DEEPEST

        case value
        when String then found << Problem.new(pointer: pointer, code: :not_utf8, numbers: {}) unless utf8?(value)
        when Integer, Float then found.concat(uncountable(value, pointer))
        when Array then value.each_with_index { |item, at| unreadable_part(item, at, pointer, found, depth + 1) }
        when Hash then value.each { |key, item| unreadable_field(key, item, pointer, found, depth + 1) }
        end
        found
      end

      # @param part [Object] a key or an index
      # @return [String] as one part of a JSON Pointer
      def part(part) = "/#{part.to_s.gsub("~", "~0").gsub("/", "~1")}"

      private

      def uncountable(number, pointer)
        code = number.is_a?(Integer) ? (:too_large if number.bit_length > BITS) : (:not_finite unless number.finite?)
        code ? [Problem.new(pointer: pointer, code: code, numbers: {})] : []
      end

      # Most texts are as they should be, and need no pointer.
      def unreadable_part(item, key, pointer, found, depth)
        return if item.is_a?(String) && utf8?(item)

        unreadable(item, pointer + part(key), found, depth)
      end

      def unreadable_field(key, item, pointer, found, depth)
        return unreadable_part(item, key, pointer, found, depth) if !key.is_a?(String) || utf8?(key)

        found << Problem.new(pointer: pointer, code: :not_utf8, numbers: {})
      end

      def utf8?(text) = text.ascii_only? || (text.encoding == Encoding::UTF_8 && text.valid_encoding?)
    end

    # @return [Array<Problem>] shared by all readers of one document
    attr_reader :problems

    # @param object [Object] parsed JSON; anything but a Hash is a problem
    # @param problems [Array<Problem>]
    # @param above [Reader, nil] of the object that it stands in
    # @param key [String, Array] where in that one
    def initialize(object, problems = [], above = nil, key = nil)
      @problems = problems
      @above = above
      @key = key
      @read = []
      @hash = object
      return if object.is_a?(Hash)

      problem(nil, :not_an_object)
      @hash = {}
    end

    # @return [String] JSON Pointer of the object
    def pointer = @above ? @above.at(@key) : ""

    # @param key [String]
    # @param read [Boolean] count the field as read, whatever stands there
    # @return [Boolean] whether something other than null stands there
    def given?(key, read: false)
      @read << key if read
      !@hash[key].nil?
    end

    # @param key [String]
    # @param required [Boolean]
    # @param most [Integer] characters
    # @return [String, nil] trimmed; an empty one counts as none
    def text(key, required: true, most: NAME_LENGTH)
      value = fetch(key)
      return problem(key, :not_text) unless value.nil? || value.is_a?(String)

      value = value&.strip
      return (problem(key, :missing) if required) if value.nil? || value.empty?
      return problem(key, :too_long, most: most, length: value.length) if value.length > most

      value
    end

    # @param key [String]
    # @param among [Array<String>]
    # @return [String, nil]
    def choice(key, among:, default: nil)
      value = fetch(key)
      return default || problem(key, :missing) if value.nil?

      among.include?(value) ? value : problem(key, :not_one_of, choices: among.join(", "))
    end

    # @param key [String]
    # @return [Boolean, nil]
    def flag(key, default: nil)
      value = fetch(key)
      return default.nil? ? problem(key, :missing) : default if value.nil?

      [true, false].include?(value) ? value : problem(key, :not_true_or_false)
    end

    # @param key [String]
    # @param range [Range<Integer>]
    # @return [Integer, nil]
    def whole(key, range)
      value = fetch(key)
      return problem(key, :missing) if value.nil?
      return problem(key, :not_whole) unless value.is_a?(Integer)

      range.cover?(value) ? value : problem(key, :out_of_range, least: range.min, most: range.max)
    end

    # @param key [String]
    # @param currency [Currency, nil] nil (itself a problem noted elsewhere) reads nothing
    # @param signed [Boolean] whether it may be negative
    # @return [Money, nil]
    def money(key, currency, required: true, signed: false)
      parsed(key, required: required) do |value|
        next if currency.nil?

        amount = Money.parse(value, currency)
        amount.negative? && !signed ? problem(key, :negative) : amount
      end
    end

    # Reads with any of the quantities' own parsers.
    # @param key [String]
    # @yieldparam value [Object]
    # @return [Object, nil] what the block makes of the value; a {Malformed} becomes a problem
    def parsed(key, required: true)
      value = fetch(key)
      return (problem(key, :missing) if required) if value.nil? || value == ""
      return problem(key, :too_long, most: PARSED_LENGTH, length: value.length) if long?(value)

      yield value
    rescue Malformed => e
      problem(key, e.code, **e.numbers)
    end

    # @param key [String]
    # @return [Reader, nil] of the object at the key
    def object(key, required: true)
      value = fetch(key)
      return (problem(key, :missing) if required) if value.nil?

      Reader.new(value, problems, self, key)
    end

    # @param key [String]
    # @return [Object] what stands there; the field does not count as read
    def peek(key) = @hash[key]

    # @param key [String] of a list
    # @param index [Integer] which of its objects
    # @param value [Object] the same
    # @return [Reader] of it
    def nth(key, index, value) = Reader.new(value, problems, self, [key, index])

    # @param key [String]
    # @param most [Integer]
    # @yieldparam item [Reader] of one object of the list
    # @return [Array] what the block made of each
    def list(key, required: true, most: nil)
      items(key, required: required, most: most).each_with_index.map { |item, at| yield(item, at).tap { item.finish } }
    end

    # @param key [String]
    # @return [Array<Reader>] of the objects of the list; the caller finishes each
    def items(key, required: true, most: nil)
      values(key, required: required, most: most).each_with_index.map do |value, index|
        Reader.new(value, problems, self, [key, index])
      end
    end

    # @param key [String]
    # @return [Array] the bare values of the list
    def values(key, required: true, most: nil)
      value = fetch(key)
      return (problem(key, :missing) if required) || [] if value.nil?
      return problem(key, :not_a_list) || [] unless value.is_a?(Array)
      return problem(key, :too_many, most: most) || [] if most && value.size > most

      value
    end

    # @param key [String]
    # @param most [Integer] how many
    # @param longest [Integer] characters of each
    # @return [Array<String>] trimmed texts, none of them empty; a bad one is told at its place
    def texts(key, most:, longest: NAME_LENGTH)
      list = values(key, required: false, most: most)
      return [] if list.empty?

      list.each_with_index.filter_map do |value, index|
        text = value.is_a?(String) ? value.strip : ""
        next problem([key, index], :not_text) if text.empty?
        next problem([key, index], :too_long, most: longest, length: text.length) if text.length > longest

        text
      end
    end

    # @return [Array<String>] the names of all fields
    def names = @hash.keys

    # Notes fields that nobody asked for: a misspelt one must not be passed over in silence.
    # @return [void]
    def finish
      @hash.each_key { |key| problem(key, :unknown_field) unless @read.include?(key) }
    end

    # @param key [String, Array, nil] an array leads further down, ["only", 3]; nil: the object itself
    # @param code [Symbol]
    # @return [nil]
    def problem(key, code, **numbers)
      problems << Problem.new(pointer: key.nil? ? pointer : at(key), code: code, numbers: numbers)
      nil
    end

    # @param key [String, Array]
    # @return [String] JSON Pointer of the field
    def at(key) = pointer + Array(key).map { |part| Reader.part(part) }.join

    private

    def long?(value) = value.is_a?(String) && value.length > PARSED_LENGTH

    def fetch(key)
      @read << key
      @hash[key]
    end
  end
end
