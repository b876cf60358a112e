# frozen_string_literal: true

require "countries"

# What the shop's pages are written with.
module Told
  # @param code [String, nil] ISO 3166-1 alpha-2
  # @return [String]
  def self.country(code) = ISO3166::Country[code]&.common_name || code.to_s

  def h(text) = Rack::Utils.escape_html(text.to_s)
  def basket = @basket ||= Basket.new(session, settings.catalogue)
  def catalogue = settings.catalogue
  def delivery = settings.delivery
  def gate_mile = settings.gate_mile
  def money(amount) = format("£%.2f", amount)
  def json(value) = h(JSON.generate(value))
  def page(name, title) = erb(name, locals: { title: title })
  def value(field) = h(basket.address[field])
  def number(text) = Integer(text.to_s, 10, exception: false) || 0

  # The price of a method, nothing in the merchant's words.
  def priced(price, quote)
    BigDecimal(price).zero? ? h(quote["zero"] || "free") : money(BigDecimal(price))
  end

  def arrival(method)
    days = method["arrives"]&.values&.map { |text| Date.iso8601(text).strftime("%-d %B") }&.uniq
    days && "arrives #{days.join(" to ")}"
  end

  def beside(method)
    [method["promise"], arrival(method), *method["collection"]&.values, *method["messages"]].compact.join(" · ")
  end
end
