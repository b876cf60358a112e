# frozen_string_literal: true

require "csv"
require "bigdecimal"

# What the shop sells: the demo's table of products, as the shop itself keeps it.
class Catalogue
  FILE = File.expand_path("../../demo/products.csv", __dir__)

  # A product or a variant of one. price: {BigDecimal} or nil; parent: SKU, nil for what is no variant; tags: texts.
  Item = Struct.new(:sku, :name, :price, :parent, :tags, :weight, :size)

  def initialize(file = FILE)
    rows = CSV.read(file, headers: true, encoding: "UTF-8").map(&:to_h)
    parents = rows.to_h { |row| [row["sku"], row] }
    @items = rows.map { |row| item(row, parents[row["variant_of"]] || {}) }
    @by_sku = @items.to_h { |one| [one.sku, one] }
    @variants = @items.select(&:parent).group_by(&:parent)
  end

  # @param sku [String, nil]
  # @return [Item, nil]
  def [](sku) = @by_sku[sku]

  # @param item [Item]
  # @return [Array<Item>] those of its product; none where there are none
  def variants(item) = @variants.fetch(item.parent || item.sku, [])

  # Products by what is typed: each of its words in the name, the SKU or a tag, of the product or of a variant.
  # @param text [String]
  # @return [Array<Item>]
  def find(text)
    words = text.downcase.split
    @items.reject(&:parent).select do |item|
      said = [item, *variants(item)].flat_map { |one| [one.name, one.sku, *one.tags] }.join(" ").downcase
      words.all? { |word| said.include?(word) }
    end
  end

  private

  def item(row, parent)
    of = ->(name) { row[name] || parent[name] }
    price = of.call("price")
    name = row["name"] || parent["name"]
    size = %w[length width height].filter_map(&of)
    Item.new(row["sku"], name, price && BigDecimal(price), row["variant_of"], of.call("tags").to_s.split(";"),
             of.call("weight"), (size.join(" × ") if size.size == 3))
  end
end
