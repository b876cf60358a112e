# frozen_string_literal: true

module Server
  # What stands in one cell of a table of proofs for several things of one: goods, moments and methods, each in a
  # notation of our own (README.md, Formats).
  class ProofCells
    METHOD = /\A(?<code>.+?)(?:\s*(?<sign><=|>=|=)\s*(?<amount>[\d.]+)|\s+(?<word>free|offered|not\s+offered))
              \s*(?:\((?<marks>[a-z ,]+)\))?\s*(?<messages>(?:"(?:[^"\\]|\\.)*"\s*)*)\z/x
    SIGNS = { "exact" => "=", "at_most" => "<=", "at_least" => ">=" }.freeze
    WORDS = { "free" => "free", "offered" => "offered", "not_offered" => "not offered" }.freeze
    GOODS = /\A(\d+)\s*[*×x]\s*(.+)\z/
    DAYS = /\A((?:[1-7]\s+)+)at\s+(\d\d:\d\d)\z/
    private_constant :METHOD, :SIGNS, :WORDS, :GOODS, :DAYS

    # What can't be read. code, numbers: of {Words}; column.
    class Unreadable < StandardError
      attr_reader :column, :code, :numbers

      def initialize(column, code, **numbers)
        super(code.to_s)
        @column = column
        @code = code
        @numbers = numbers
      end
    end

    # @param codes [Hash{String => String}] of methods, by id
    def initialize(codes)
      @codes = codes
      @ids = codes.invert.transform_keys(&:downcase)
    end

    # @param lines [Array<Hash>] of a cart document
    # @return [String] "2 * SKU | {…}"
    def goods(lines)
      lines.map do |line|
        line.keys == %w[sku quantity] ? "#{line["quantity"]} * #{line["sku"]}" : JSON.generate(line)
      end.join(" | ")
    end

    # @param text [String]
    # @return [Array<Hash>]
    # @raise [Unreadable]
    def read_goods(text)
      pieces(text).map do |piece|
        next json("goods", piece) if piece.start_with?("{")

        found = GOODS.match(piece) or raise Unreadable.new("goods", :csv_goods)
        { "sku" => found[2].strip, "quantity" => found[1].to_i }
      end
    end

    # @param proof [Hash] document
    # @return [String] "2026-11-27T18:00", "1 2 3 at 12:00" or nothing
    def moment(proof)
      proof["at"] || (proof["weekdays"] && "#{proof["weekdays"].join(" ")} at #{proof["time"]}")
    end

    # @param text [String]
    # @return [Hash] fields of a proof
    def read_moment(text)
      found = DAYS.match(text.strip)
      return { "weekdays" => found[1].split.map(&:to_i), "time" => found[2] } if found

      text.strip.empty? ? {} : { "at" => text.strip }
    end

    # @param methods [Array<Hash>] of what is expected
    # @return [String] "TRACKED = 4.50 (cheapest) | PALLET not offered"
    def methods(methods)
      methods.map do |one|
        price = WORDS[one["is"]] || "#{SIGNS.fetch(one["is"])} #{one["amount"]}"
        marks = "(#{one["marks"].join(", ")})" if one["marks"]
        [@codes.fetch(one["method"], one["method"]), price, marks, *one["messages"].to_a.map do |text|
          JSON.generate(text)
        end].compact.join(" ")
      end.join(" | ")
    end

    # @param text [String]
    # @return [Array<Hash>]
    # @raise [Unreadable]
    def read_methods(text)
      pieces(text).map do |piece|
        found = METHOD.match(piece) or raise Unreadable.new("methods", :csv_expectation, text: piece[0, 60])
        { "method" => id(found[:code]), **price(found), "marks" => found[:marks]&.split(",")&.map(&:strip),
          "messages" => messages(found[:messages]) }.compact
      end
    end

    # @param column [String]
    # @param text [String]
    # @return [Object] parsed JSON
    # @raise [Unreadable]
    def json(column, text)
      JSON.parse(text)
    rescue JSON::ParserError
      raise Unreadable.new(column, :csv_json)
    end

    private

    # A bar within quotes or braces divides nothing.
    def pieces(text) = text.to_s.scan(/(?:"(?:[^"\\]|\\.)*"|[^|"])+/).map(&:strip).reject(&:empty?)

    # A method that is gone is spoken of by its id.
    def id(code) = @ids.fetch(code.downcase, code)

    def price(found)
      return { "is" => found[:word].sub(/\s+/, "_") } if found[:word]

      { "is" => SIGNS.key(found[:sign]), "amount" => found[:amount] }
    end

    def messages(text)
      list = text.to_s.scan(/"(?:[^"\\]|\\.)*"/).map { |one| JSON.parse(one) }
      list if list.any?
    end
  end
end
