# frozen_string_literal: true

require "csv"
require "erb"
require "json"

# A plain shop's basket page that embeds mileposts with one tag, under a strict content security policy: a stand-in for
# the merchant's own shop, on a port of its own.
class Storefront
  HERE = __dir__
  PRODUCTS = File.expand_path("../../demo/products.csv", HERE)
  SHOWN = %w[SHK-GAL-10 ROP-BRD-08 CHT-PASS-F FND-15 ANC-06 TIDE-27].freeze
  TYPES = { ".js" => "text/javascript", ".css" => "text/css" }.freeze

  # @param gate_mile [String] origin of the application
  def initialize(gate_mile:)
    @gate_mile = gate_mile
    @page = ERB.new(File.read(File.join(HERE, "page.erb")))
  end

  # @param env [Hash] of Rack
  # @return [Array] a Rack response
  def call(env)
    path = env["PATH_INFO"]
    return [200, headers("text/html"), [page]] if path == "/"
    return [404, headers("text/plain"), ["Not here"]] unless %w[/shop.js /shop.css].include?(path)

    [200, headers(TYPES.fetch(File.extname(path))), [File.read(File.join(HERE, path))]]
  end

  private

  def headers(type)
    policy = "default-src 'none'; script-src 'self' #{@gate_mile}; style-src 'self'; connect-src #{@gate_mile}; " \
             "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    { "content-type" => "#{type}; charset=utf-8", "content-security-policy" => policy,
      "x-content-type-options" => "nosniff", "cache-control" => "no-store" }
  end

  def page = @page.result_with_hash(gate_mile: @gate_mile, products: products, h: ERB::Util.method(:html_escape))

  def products
    @products ||= begin
      rows = CSV.read(PRODUCTS, headers: true, encoding: "UTF-8").map(&:to_h)
      chosen = SHOWN.filter_map { |sku| rows.find { |row| row["sku"] == sku } }
      chosen.size < 4 ? rows.select { |row| row["price"] }.first(6) : chosen
    end
  end
end
