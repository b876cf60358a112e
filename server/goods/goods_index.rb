# frozen_string_literal: true

module Server
  # What has to be known of a whole file before its rows can be read one after the other: which SKU stands where, which
  # rows are variants and of what, which classes it names; and which SKUs the shop has.
  class GoodsIndex
    # @return [Integer] rows
    attr_reader :size
    # @return [Hash{String => String}] names of classes by their folded form
    attr_reader :classes

    # @param rows [Enumerable<Array(Array<String>, Integer)>] cells and line of each row
    # @param places [Hash{String => Integer}] our column => its place in a row
    # @param shop [GoodsInShop]
    def initialize(rows, places, shop)
      @places = places
      @there = there(shop)
      @lines = {}
      @parents = {}
      @classes = {}
      @size = 0
      rows.each { |sent, line| put(sent, line) }
      @wanted = @parents.values.to_set
    end

    # @param key [String] a folded SKU
    # @return [Integer, nil] the line where it stands first
    def line(key) = @lines[key]

    # @param key [String]
    # @return [String, nil] id of the row that the shop has
    def id(key) = @there[key]&.first

    # @param key [String]
    # @return [Boolean] whether the file or the shop has it as a variant
    def variant_of?(key) = @parents.key?(key) || !@there.dig(key, 1).nil?

    # @param sent [Array<String>]
    # @return [Boolean] whether the row is looked at among the variants
    def variant?(sent)
      key = fold(sent, "sku")
      !fold(sent, "variant_of").empty? || !@there.dig(key, 1).nil?
    end

    # @param key [String]
    # @return [Boolean] whether a row of the file belongs to it
    def wanted?(key) = @wanted.include?(key)

    private

    def there(shop)
      found = {}
      page = shop.skus("")
      until page.empty?
        page.each { |id, sku, parent| found[GateMile::Product.fold(sku)] = [id, parent] }
        page = shop.skus(page.last.first)
      end
      found
    end

    def fold(sent, column) = @places[column] ? GateMile::Product.fold(sent[@places[column]].to_s) : ""

    def put(sent, line)
      @size += 1
      key = fold(sent, "sku")
      named = fold(sent, "class")
      @classes[named] ||= sent[@places["class"]].strip if !named.empty? && named.length <= 60
      return if @lines.key?(key)

      @lines[key] = line
      parent = fold(sent, "variant_of")
      @parents[key] = parent unless parent.empty?
    end
  end
end
