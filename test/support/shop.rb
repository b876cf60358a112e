# frozen_string_literal: true

require_relative "browser"
require_relative "checkout"
require_relative "../../stand_ins/storefront/storefront"

# A shop on an origin of its own, which asks the checkout door with keys: the stand-in, or single pages with parts on them.
# All of its pages are also held to a policy that reports what it would refuse: there must be nothing.
module ShopSupport
  include CheckoutSupport
  include BrowserSupport

  # Content Security Policy Level 3, report-only (6.2), stricter than the stand-in's own, with Trusted Types.
  STRICT = "default-src 'none'; script-src 'self' %<gate>s; style-src 'self'; connect-src 'self' %<gate>s; img-src 'self'; " \
           "base-uri 'none'; form-action 'self'; require-trusted-types-for 'script'; trusted-types 'none'; report-uri /reports"

  # @param demo [Hash] a book
  def open_shop(demo = WHOLE_DEMO)
    fresh(demo)
    publish
    # Capybara asks a new server whether it is there before there is a key.
    @shop_app = ->(_) { [200, {}, []] }
    @reports = []
    server = Capybara::Server.new(method(:as_shop)).boot
    @origin = "http://127.0.0.1:#{server.port}"
    @gate = Apart.origin
    @server_key = key_for("Server", pace: 6000)
    @key = api(:post, "/api/keys", { name: "Pages", public: true, origins: [@origin], calls: %w[quotes served], pace: 6000 })["key"]
    @shop_app = Storefront.open(gate_mile: @gate, server: @server_key)
  end

  def as_shop(env)
    return [204, {}, []].tap { @reports << env["rack.input"].read } if env["PATH_INFO"] == "/reports"

    status, headers, body = @shop_app.call(env)
    [status, headers.merge("content-security-policy-report-only" => format(STRICT, gate: @gate)), body]
  end

  def visit_shop(path = "/") = visit("#{@origin}#{path}")

  # A page of a shop with nothing on it but this.
  # @yield the environment of a request; what the block returns is answered, unless it is nil
  def visit_page(html, lang: "en-GB", style: "", &others)
    scripts = %w[estimate choice milepost address].map { |name| "<script src='#{@gate}/embed/#{name}.js' defer></script>" }.join
    pages = { "/" => "<!doctype html><html lang='#{lang}'><head><title>A shop</title><link rel='stylesheet' href='/s.css'>#{scripts}</head>" \
                     "<body><main><h1>A shop</h1>#{html}</main></body></html>", "/s.css" => style }
    policy = format(STRICT.split("; require").first, gate: @gate)
    @shop_app = lambda do |env|
      other = others&.call(env) and next other
      type = env["PATH_INFO"] == "/" ? "text/html; charset=utf-8" : "text/css"
      [200, { "content-type" => type, "content-security-policy" => policy }, [pages.fetch(env["PATH_INFO"], "")]]
    end
    visit "#{@origin}/"
  end

  # Capybara looks into open shadow trees through their host; there is one once the part's script is there.
  def part(name) = eventually { find("gate-mile-#{name}").shadow_root }

  # Typed as one does, and left.
  def type_into(field, text)
    field.set(text)
    field.execute_script("this.dispatchEvent(new Event('change', { bubbles: true }))")
  end

  # What parts told the page, by the name of their events.
  def listen(*names)
    page.execute_script("window.heard = []; for (const name of arguments[0]) " \
                        "document.addEventListener(`gate-mile:${name}`, ({ type, detail }) => window.heard.push([type.slice(10), detail]))", names)
  end

  def heard = page.evaluate_script("window.heard")
  def assert_nothing_reported = assert_empty(@reports)
end
