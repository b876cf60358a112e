# frozen_string_literal: true

require_relative "../support/shop"

# Parts on pages that are made with React 19, Vue 3, Svelte 5 and none, by their own renderers: each sets attributes and
# properties as it does, takes parts away and brings them back, and changes lists that a part has looked at.
class FrameworksTest < Minitest::Test
  include ShopSupport

  PAGES = MADE ? File.join(MADE, "pages") : Dir.mktmpdir("gate-mile-pages")

  # Built once for all tests that show them.
  def self.build
    @build ||= system("node", "pages/build.mjs", PAGES, chdir: File.join(Server::ROOT, "web"), exception: true)
  end

  def setup
    open_shop
    self.class.build
  end

  %w[plain react vue svelte].each do |name|
    define_method("test_a_page_made_with_#{name}") { checkout_on(name) }
  end

  private

  def checkout_on(name)
    visit_made(name)
    assert part("choice").has_selector?("[data-code=TRACKED]", text: "£5.95"), name
    assert_equal ["delivery", true, 1], find("gate-mile-choice").evaluate_script("[this.name, this.required, this.cart.lines[0].quantity]")
    refute valid?, "nothing is chosen yet"
    part("choice").find("label", text: "Tracked").click
    assert valid?
    assert part("estimate").has_selector?("[data-code=TRACKED]", text: "£5.95")
    assert part("milepost").has_selector?("[data-moment]")
    # One change of the page is one question of each part.
    asked = quotes_asked { click_button("More") && assert(part("choice").has_selector?("[data-code=TRACKED]", text: "free")) }
    assert_equal 3, asked
    assert part("estimate").has_selector?("[data-code=TRACKED]", text: "free")
    assert_equal "TRACKED", find("gate-mile-choice").evaluate_script("this.value")
    # A list that a part has looked at is still the page's own.
    click_button "Fewer countries"
    assert_selector "gate-mile-address option[value=GB]", visible: :all
    assert_no_selector "gate-mile-address option[value=BR]", visible: :all
    2.times { click_button "Away and back" }
    assert part("choice").has_selector?("[data-code=TRACKED]", text: "free")
    part("choice").find("label", text: "Tracked").click
    click_button "Order"
    # The stand-in shop places the order, by its own key, for the price that the page has shown.
    assert_selector "h1", text: "Thank you"
    assert_selector "dl.order", text: /TRACKED.*free/m
    placed = api(:get, "/api/orders")["orders"].sole
    assert_equal ["0.00", find("dl.order dd", match: :first).text], placed.values_at("price", "number")
  end

  def valid? = find("gate-mile-choice").evaluate_script("this.checkValidity() && this.form.checkValidity()")

  # @return [Integer] how many quotes the page asked for meanwhile
  def quotes_asked
    count = -> { page.driver.network_traffic.count { |one| one.url.end_with?("/quotes") && one.request.method == "POST" } }
    before = count.call
    yield
    sleep 0.5
    count.call - before
  end

  def visit_made(name)
    told = { cart: { lines: goods, destination: { country: "GB", postcode: "TR29 4ZZ" } }, asks: { "public-key" => @key, "server" => @gate },
             through: "/gate-mile" }
    scripts = %w[estimate choice milepost address].map { |one| "<script src='#{@gate}/embed/#{one}.js' defer></script>" }.join
    html = "<!doctype html><html lang='en_GB'><head><title>A shop</title>#{scripts}</head><body><div id='shop'></div>" \
           "<script>window.page = #{JSON.generate(told)}</script><script src='/page.js' #{"defer" unless name == "plain"}></script></body></html>"
    rest = @shop_app
    @shop_app = lambda do |env|
      case env["PATH_INFO"]
      when "/page.js" then [200, { "content-type" => "text/javascript" }, [File.read(File.join(PAGES, "#{name}.js"))]]
      when "/" then [200, { "content-type" => "text/html; charset=utf-8" }, [html]]
      else rest.call(env)
      end
    end
    visit "#{@origin}/"
  end
end
