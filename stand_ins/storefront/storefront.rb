# frozen_string_literal: true

require "sinatra/base"
require "rack/session"
require "securerandom"
require_relative "basket"
require_relative "catalogue"
require_relative "delivery"
require_relative "asking"
require_relative "through"
require_relative "told"

# A small shop on a port of its own, as merchants have one: catalogue, basket, groups, a coupon, checkout and orders.
# It knows of Gate Mile what any shop knows: the checkout door, with a key, and the parts for its pages.
class Storefront < Sinatra::Base
  set :root, __dir__
  set :host_authorization, permitted_hosts: []
  set :show_exceptions, false
  set :raise_errors, false
  set :logging, false
  set :erb, escape_html: false, trim: "-"
  set :catalogue, Catalogue.new
  use Rack::Session::Pool, key: "quay", same_site: :lax, http_only: true

  # @param gate_mile [String] origin of the application
  # @param server [String, nil] key of the shop's server
  # @return [Class] a Rack application
  def self.open(gate_mile:, server: nil)
    Class.new(self) do
      set :gate_mile, gate_mile
      set :delivery, Delivery.new(gate_mile, server)
    end
  end

  POLICY = "default-src 'none'; script-src 'self' %<gate>s; style-src 'self'; connect-src 'self' %<gate>s; " \
           "img-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
  private_constant :POLICY

  before do
    headers "content-security-policy" => format(POLICY, gate: settings.gate_mile), "cache-control" => "no-store",
            "x-content-type-options" => "nosniff", "referrer-policy" => "same-origin"
  end

  helpers Told, Asking
  register Through

  get("/") do
    @text = params["q"].to_s[0, 100]
    @found = catalogue.find(@text)
    page(:catalogue, "All goods")
  end

  get "/products/:sku" do
    @item = catalogue[params["sku"]] or halt(404, page(:missing, "Not here"))
    @variants = catalogue.variants(@item)
    @item = @variants.first if @variants.any? && !@item.parent
    page(:product, @item.name)
  end

  get("/basket") { page(:basket, "Your basket") }

  post "/basket" do
    sku = params["sku"].to_s
    if params["add"] then basket.add(sku, [number(params["quantity"]), 1].max)
    else basket.set(sku, params["by"] ? units(sku) + number(params["by"]) : number(params["quantity"]))
    end
    redirect to("/basket"), 303
  end

  post "/group" do
    basket.group = params["group"]
    redirect back_to, 303
  end

  post "/coupon" do
    basket.coupon = params["coupon"]
    redirect to("/basket"), 303
  end

  get "/checkout" do
    redirect to("/basket"), 303 if basket.empty?
    @quote = nil
    page(:address, "Checkout: where to")
  end

  post "/checkout" do
    basket.address = params
    missing = %w[name line1 country].select { |name| basket.address[name].empty? }
    next redirect(to("/checkout/delivery"), 303) if missing.empty?

    @missing = missing
    status 422
    page(:address, "Checkout: where to")
  end

  get "/checkout/delivery" do
    redirect to("/basket"), 303 if basket.empty?
    look
    page(:choice, "Checkout: delivery")
  end

  post "/checkout/order" do
    placed = delivery.post("orders", { "order" => order_number, "quote" => params["delivery-quote"].to_s,
                                       "method" => params["delivery"].to_s })
    session[:order] = { **placed, "promise" => session[:promises].to_h[placed.dig("method", "code")] }
    basket.ordered
    redirect to("/orders/#{Rack::Utils.escape_path(placed["order"])}"), 303
  rescue Delivery::Away
    @away = true
    again
  rescue Delivery::Refused => e
    @refused = refusal(e)
    again
  end

  # Orders are their shopper's own.
  get "/orders/:number" do
    @order = session[:order]
    halt(404, page(:missing, "Not here")) unless @order && @order["order"] == params["number"]
    page(:order, "Thank you")
  end

  # What delivery costs, without a script.
  get "/delivery" do
    @sku = params["sku"] if catalogue[params["sku"]]
    lines = @sku ? [{ "sku" => @sku, "quantity" => 1 }] : basket.lines
    @countries = served
    @typed = %w[country region postcode].to_h { |name| [name, params[name].to_s.strip[0, 100]] }
    to = @typed.reject { |_, text| text.empty? }
    @quote = quote(basket.cart(to: to, lines: lines)) if to["country"] && lines.any?
    @asked = to["country"] && lines.any?
    page(:delivery, "What delivery costs")
  end

  # A merchant's cart, from the bench.
  get "/try" do
    id = params["gate-mile-trial"].to_s
    basket.try(id, delivery.get("trials/#{Rack::Utils.escape_path(id)}"))
    redirect to("/basket"), 303
  rescue Delivery::Away, Delivery::Refused => e
    @text = e.is_a?(Delivery::Refused) ? e.message : "Gate Mile does not answer just now."
    status 404
    page(:missing, "Nothing to try")
  end

  post "/leave" do
    basket.leave
    redirect to("/"), 303
  end

  not_found { page(:missing, "Not here") }

  error do
    status 500
    page(:missing, "Something went wrong")
  end

  private

  def units(sku) = basket.lines.find { |line| line["sku"] == sku }&.fetch("quantity") || 0
  def order_number = "TQ-#{Time.now.strftime("%y%m%d")}-#{SecureRandom.alphanumeric(5).upcase}"

  # Where the shopper was, of this shop alone.
  def back_to
    path = URI(request.referer.to_s).path
    path.start_with?("/") && !path.start_with?("//") ? path : "/"
  rescue URI::InvalidURIError
    "/"
  end

  # What there is to choose; what is said of it stands on the order too.
  def look
    @quote = quote(basket.cart)
    session[:promises] = @quote["methods"].to_h { |one| [one["code"], beside(one)] } if @quote
  end

  # The choice once more, with what there is now and the basket as it is.
  def again
    look
    status 409
    page(:choice, "Checkout: delivery")
  end

  def refusal(error)
    promised, now = error.body.values_at("promised", "now")
    return "The price of delivery has changed: it is #{money(BigDecimal(now))} now." if now && now != promised

    error.status == 409 ? "Prices are kept only for a while. Choose once more." : error.message
  end
end
