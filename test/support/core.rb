# frozen_string_literal: true

require "json"
require "minitest/autorun"
require "prop_check"
$LOAD_PATH.unshift(File.expand_path("../../core", __dir__))
require "gate_mile"
require_relative "rounds"

module CoreSupport
  ROOT = File.expand_path("../..", __dir__)
  AT = Time.utc(2026, 6, 1, 10)
  STORE = { "name" => "Shop", "country" => "GB", "currency" => "GBP", "time_zone" => "Europe/London",
            "weight_unit" => "kg", "length_unit" => "cm", "prices_include_tax" => true }.freeze

  def flat(amount) = { "schedule" => { "kind" => "flat", "amount" => amount } }
  def country(code) = { "kind" => "country", "country" => code }

  def document(**parts)
    { "format" => "gate-mile/book", "version" => 1, "store" => STORE,
      "products" => [{ "sku" => "A", "name" => "Shackle", "price" => "1.90", "weight" => "0.21 kg" },
                     { "sku" => "V", "name" => "Voucher", "price" => "25.00", "ships" => false }],
      "zones" => [{ "id" => "uk", "name" => "UK", "areas" => [country("GB")] },
                  { "id" => "all", "name" => "Elsewhere", "areas" => [{ "kind" => "world" }] }],
      "methods" => [{ "id" => "m", "code" => "TRACKED", "name" => "Tracked" },
                    { "id" => "n", "code" => "NEXT", "name" => "Next day" }],
      "rates" => [{ "id" => "uk-m", "zone" => "uk", "method" => "m", "plan" => flat("4.50") },
                  { "id" => "uk-n", "zone" => "uk", "method" => "n", "plan" => flat("3.00") }] }
      .merge(parts.transform_keys(&:to_s))
  end

  def book(**parts) = GateMile::Book.compile(document(**parts))
  def cart(hash) = GateMile::Cart.parse(hash, GateMile::Currency["GBP"])

  def line(sku = "A", quantity = 1, **fields)
    { "sku" => sku, "quantity" => quantity, **fields.transform_keys(&:to_s) }
  end

  def to(country) = { "country" => country }

  def quote(book, lines, to)
    book.quote(cart({ "lines" => lines, "destination" => to }), at: AT)
  end

  def findings(book, at: AT) = GateMile::Audit.findings(book, at: at)

  # @return [Hash] the JSON document of a value, or of where an address landed
  def written(value)
    value.is_a?(GateMile::Landing) ? GateMile::QuoteDocument.landing(value) : GateMile::Documents.write(value)
  end

  def problems_of
    yield
    []
  rescue GateMile::Invalid => e
    e.problems.map { |problem| [problem.pointer, problem.code] }
  end

  def malformed
    yield
    nil
  rescue GateMile::Malformed => e
    e.code
  end
end
