# frozen_string_literal: true

# An estimate on a shop's product page in Chromium: from opening the page to prices on screen, against a page that
# fetches a static file of the same size and shows it, in turns. And the sizes of the scripts, and what moves on the
# page.
#   bundle exec ruby perf/embed.rb

require_relative "over_http"
require "ferrum"
require "puma"
require "zlib"

GATE = PORTS + 10
SHOP = PORTS + 11
TURNS = sized(25, 1)
BROWSER = ENV.fetch("CHROMIUM", "/usr/bin/chromium-headless-shell")

# Two pages of a shop: one with the estimate, and one that fetches as many bytes and writes them on the page.
class TwoPages
  SCRIPT = "performance.mark('begun');fetch('/file').then((one) => one.text()).then((text) => { " \
           "document.querySelector('main').textContent = text.slice(0, 400); " \
           "requestAnimationFrame(() => { window.shown = performance.now() }) })"
  WATCH = <<~JS
    document.addEventListener('gate-mile:estimate', () =>
      requestAnimationFrame(() => { window.shown = performance.now() }))
    window.moved = 0
    new PerformanceObserver((list) => { for (const one of list.getEntries()) window.moved += one.value })
      .observe({ type: 'layout-shift', buffered: true })
  JS
  ROOM = "gate-mile-estimate { display: block; min-height: 34rem; --gate-mile-room: 26rem }"
  ESTIMATE = "<script src='/watch.js'></script>" \
             "<script src='http://127.0.0.1:#{GATE}/embed/estimate.js' defer></script>".freeze

  attr_writer :key, :size

  def call(env)
    text, type = told(env["PATH_INFO"])
    [200, { "content-type" => type, "cache-control" => "no-store" }, [text]]
  end

  private

  def told(path)
    case path
    when "/estimate" then [page(ESTIMATE, estimate), "text/html"]
    when "/static" then [page("<script src='/static.js' defer></script>", "<p>Looking …</p>"), "text/html"]
    when "/static.js" then [SCRIPT + (" " * 15_000), "text/javascript"]
    when "/watch.js" then [WATCH, "text/javascript"]
    when "/shop.css" then [ROOM, "text/css"]
    else ["x" * @size.to_i, "text/plain"]
    end
  end

  def page(head, body)
    style = "<link rel='stylesheet' href='/shop.css'>"
    "<!doctype html><html lang='en-GB'><head><title>A shop</title>#{style}#{head}</head><body><h1>A log</h1>" \
      "<main>#{body}</main><p>What stands below.</p></body></html>"
  end

  def estimate
    "<gate-mile-estimate key='#{@key}' sku='LOG-A4' ask='open' more='off' country='GB' postcode='TR29 4ZZ'>" \
      "</gate-mile-estimate>"
  end
end

# The keys that the demo's shop asks with, for pages of this shop's origin.
def key_for(env)
  said = { "name" => "Pages", "public" => true, "calls" => %w[quotes served], "pace" => 100_000,
           "origins" => ["http://127.0.0.1:#{SHOP}"] }
  code = "require './server/boot'; Server::Database.connect; " \
         "puts Server::Database.write { Server::KeyRing.make(JSON.parse(ARGV[0])).last }"
  IO.popen([env, "bundle", "exec", "ruby", "-rjson", "-e", code, JSON.generate(said), { chdir: ROOT }], &:read).strip
end

def answer_of(key)
  uri = URI("http://127.0.0.1:#{GATE}/checkout/v1/quotes")
  cart = { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB", postcode: "TR29 4ZZ" } }
  headers = { "authorization" => "Bearer #{key}", "origin" => "http://127.0.0.1:#{SHOP}",
              "content-type" => "application/json" }
  answer = Net::HTTP.post(uri, JSON.generate(cart: cart), headers)
  abort "no estimate: #{answer.code} #{answer.body}" unless answer.code == "200"

  answer.body
end

# @return [Float] milliseconds from opening the page to what it shows
def shown(browser, path)
  browser.go_to("http://127.0.0.1:#{SHOP}#{path}")
  200.times do
    at = browser.evaluate("window.shown || null")
    return at.to_f if at

    sleep 0.02
  end
  abort "#{path} shows nothing"
end

# @return [Array(Float, Float, Float)] milliseconds of the static page and of the estimate, and what moved
def measured
  browser = Ferrum::Browser.new(browser_path: BROWSER, timeout: 30, process_timeout: 60,
                                browser_options: { "no-sandbox" => nil, "disable-gpu" => nil })
  times = Array.new(TURNS + 1) { [shown(browser, "/static"), shown(browser, "/estimate")] }.drop(1)
  [*times.transpose.map { |list| median(list) }, browser.evaluate("window.moved")]
ensure
  browser&.quit
end

def tell(size, static, estimate, moved)
  puts format("an answer of %<size>d bytes; static file %<static>.0f ms, estimate %<estimate>.0f ms: " \
              "ratio %<ratio>.2f (wanted: at most 3)",
              size: size, static: static, estimate: estimate, ratio: estimate / static)
  puts format("layout shift %<moved>.4f (wanted: 0)", moved: moved)
  Dir[File.join(ROOT, "web/dist/embed/*.js")].each do |file|
    puts format("%<name>s: %<size>d bytes with gzip (wanted: under 12,000)",
                name: File.basename(file), size: Zlib.gzip(File.read(file), level: 9).bytesize)
  end
end

Dir.mktmpdir do |folder|
  env = demo_in(folder)
  code = "require './server/boot'; Server::Database.connect; Server::Demo.open_door"
  system(env, "bundle", "exec", "ruby", "-e", code, chdir: ROOT, exception: true)
  pages = TwoPages.new
  pages.key = key = key_for(env)
  shop = Puma::Server.new(pages).tap { |server| server.add_tcp_listener("127.0.0.1", SHOP) }
  shop.run
  gate = started(env, "server/config.ru", GATE)
  begin
    wait_for(GATE)
    # The names of regions are read in the background at first.
    sleep sized(6, 1)
    pages.size = answer_of(key).bytesize
    tell(answer_of(key).bytesize, *measured)
  ensure
    Process.kill("TERM", gate)
    shop.stop(true)
    Process.waitall
  end
end
