# frozen_string_literal: true

require_relative "server"
require "minitest/mock"

# A shop that has published, and what asks its checkout door.
module CheckoutSupport
  include ServerSupport

  CALLS = %w[quotes orders methods served offers].freeze
  MAINLAND = { "country" => "GB", "postcode" => "TR29 4ZZ", "lines" => ["12 Harbour Row"] }.freeze

  def checkout = Server::App.settings.checkout
  def releases = Server::App.settings.releases

  # @return [String] a key that was told once
  def key_for(name = "Shop", **said)
    api(:post, "/api/keys", { name: name, calls: CALLS, **said }).fetch("key")
  end

  def publish(**said) = api(:post, "/api/releases", { revision: setup_now["revision"], **said })

  # One request to the door.
  def ask(verb, call, body = nil, key: @key, **headers)
    bearer = key ? { "HTTP_AUTHORIZATION" => "Bearer #{key}" } : {}
    api(verb, "/checkout/v1/#{call}", body, **bearer, **headers)
  end

  def goods(sku = "LOG-A4", quantity = 1) = [{ "sku" => sku, "quantity" => quantity }]
  def cart(lines = goods, to = MAINLAND, **more) = { "lines" => lines, "destination" => to, **more.transform_keys(&:to_s) }
  def quoted(cart = self.cart, **more) = ask(:post, "quotes", { cart: cart }, **more)
  def price(quote, code = "TRACKED") = quote.fetch("methods").find { |one| one["code"] == code }&.fetch("price")

  def reprice(rate, amount)
    item = setup_now["rates"].find { |one| one["id"] == rate }
    api(:patch, "/api/rates/#{rate}", { plan: { "schedule" => { "kind" => "flat", "amount" => amount } }, lock_version: item["lock_version"] })
  end

  # While the block runs, it is that much later for everybody who asks what time it is.
  def later(seconds, &)
    real = Time.method(:now).unbind.bind(Time)
    Time.stub(:now, ->(*args, **named) { real.call(*args, **named) + seconds }, &)
  end
end
