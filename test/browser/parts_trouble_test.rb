# frozen_string_literal: true

require_relative "../support/shop"

# Parts for shops when answers are odd, late or missing: each says so, offers to try again, and asks no more often than it
# has to. Here the shop's own server answers, as each test tells it.
class PartsTroubleTest < Minitest::Test
  include ShopSupport

  CART = { lines: [{ sku: "LOG-A4", quantity: 1 }], destination: { country: "GB" } }.freeze
  SERVED = { countries: [{ country: "GB", served: "all" }, { country: "CA", served: "all", regions: { ON: "all", QC: "all" } }] }.freeze

  def setup
    open_shop
    @answers = { "served" => SERVED, "quotes" => quote, "quotes/batch" => { quotes: [] } }
    @asked = []
  end

  # @param held [Numeric] seconds for which its prices hold
  def quote(held: 900, **more)
    { quote: "q", release: 1, at: Time.now.utc.iso8601, holds_until: (Time.now + held).utc.iso8601(3), status: "priced", currency: "GBP", text: nil,
      needs: [], methods: [{ code: "TRACKED", name: "Tracked", price: "5.95" }, { code: "NEXT-DAY", name: "Next day", price: "9.80" }], **more }
  end

  def attributes(**more) = { through: "/gate", cart: JSON.generate(CART), **more }.map { |name, value| "#{name}='#{ERB::Util.h(value)}'" }.join(" ")

  def visit_with(html, lang: "en-GB")
    visit_page(html, lang: lang) do |env|
      path = env["PATH_INFO"][%r{\A/gate/(.+)}, 1] or next
      @asked << path
      answer = @answers.fetch(path)
      answer = answer.call(JSON.parse(env["rack.input"].read)) if answer.respond_to?(:call)
      answer ? [200, { "content-type" => "application/json" }, [JSON.generate(answer)]] : [503, { "content-type" => "text/html" }, ["<h1>Away</h1>"]]
    end
  end

  def test_odd_answers_and_languages
    @answers["quotes"] = quote(currency: "ZZZZ").except(:needs)
    estimate = "<gate-mile-estimate #{attributes(sku: "LOG-A4", country: "GB", ask: "open")}></gate-mile-estimate>"
    visit_with("<gate-mile-choice #{attributes}></gate-mile-choice>#{estimate}", lang: "en_US")
    %w[choice estimate].each { |name| assert part(name).has_selector?("[data-code=TRACKED]", text: "5.95 ZZZZ"), name }
    @answers["quotes"] = { status: "priced" }
    visit_with(estimate, lang: "x-nonsense!")
    assert part("estimate").has_selector?("[part=trouble]", text: "can’t be worked out just now")
  end

  def test_once_more_after_a_failure
    @answers["quotes"] = nil
    visit_with("<form><gate-mile-choice required #{attributes}></gate-mile-choice></form>" \
               "<gate-mile-estimate #{attributes(sku: "LOG-A4", country: "GB", ask: "open", more: "off")}></gate-mile-estimate>")
    assert part("choice").has_selector?("[role=status]", text: "Your basket is kept")
    refute find("gate-mile-choice").evaluate_script("this.checkValidity()"), "nothing is chosen"
    @answers["quotes"] = quote
    %w[choice estimate].each do |name|
      part(name).find("[part=again]").click
      assert part(name).has_selector?("[data-code=TRACKED]", text: "£5.95")
      assert part(name).has_no_selector?("[part=again]")
    end
    assert_equal 1, @asked.count("served"), "asked for once on a page"
  end

  # Which goods are in the way, found by asking: what nothing takes by itself, or one that does not go with the others.
  def test_goods_that_keep_a_basket_from_being_sent
    lines = [%w[FLARE Flare], %w[ROPE Rope], %w[LOG Log]].map { |sku, name| { sku: sku, name: name, quantity: 1 } }
    nothing = quote(status: "nothing_available", methods: [], text: "We have no way to send this to you.")
    sent = ->(skus) { skus.include?("FLARE") ? nothing : quote }
    answer = lambda { |rule|
      @answers["quotes"] = ->(body) { rule.call(body.dig("cart", "lines").map { |line| line["sku"] }) }
      @answers["quotes/batch"] = ->(body) { { quotes: body["carts"].map { |cart| rule.call(cart["lines"].map { |line| line["sku"] }) } } }
    }
    answer.call(sent)
    visit_with("<gate-mile-choice #{attributes(cart: JSON.generate({ lines: lines, destination: { country: "GB" } }))}></gate-mile-choice>")
    assert part("choice").has_selector?("[part=nothing]", text: "We have no way")
    assert part("choice").has_selector?("[part=apart]", text: "Without Flare: Tracked, £5.95.")
    assert_equal %w[quotes quotes/batch quotes/batch], @asked
    # Rope and log go by themselves, and not together.
    answer.call(->(skus) { (%w[ROPE LOG] - skus).empty? || skus.include?("FLARE") ? nothing : quote })
    find("gate-mile-choice").execute_script("this.cart = arguments[0]", { lines: lines.drop(1), destination: { country: "GB" } })
    assert part("choice").has_selector?("[part=apart] li", count: 2)
    assert_equal ["Without Log: Tracked, £5.95.", "Without Rope: Tracked, £5.95."], part("choice").all("[part=apart] li").map(&:text).sort
    @asked.clear
    find("gate-mile-choice").execute_script("this.setAttribute('apart', 'off'); this.cart = arguments[0]", { lines: lines, destination: { country: "GB" } })
    assert part("choice").has_no_selector?("[part=apart]")
    assert_equal %w[quotes], @asked
  end

  # A promise that is short, or over when it comes, is no reason to ask again and again.
  def test_a_short_promise
    [0.2, -60].each do |held|
      @asked.clear
      @answers["quotes"] = quote(held: held)
      visit_with("<gate-mile-choice #{attributes}></gate-mile-choice>")
      assert part("choice").has_selector?("[data-code=TRACKED]")
      sleep 2
      assert_equal 1, @asked.count("quotes")
    end
    @asked.clear
    visit_with("<gate-mile-choice #{attributes(quote: JSON.generate(quote(held: -60)))}></gate-mile-choice>")
    assert part("choice").has_selector?("[data-code=TRACKED]")
    assert(eventually { @asked.include?("quotes") }, "one that the page has kept for too long")
    sleep 1
    assert_equal 1, @asked.count("quotes")
  end

  def test_what_changes_together_is_asked_once
    visit_with("<gate-mile-estimate #{attributes(sku: "LOG-A4", country: "GB", ask: "open", more: "off")}></gate-mile-estimate>")
    assert part("estimate").has_selector?("[data-code=TRACKED]")
    @asked.clear
    find("gate-mile-estimate").execute_script("for (const [name, value] of Object.entries(arguments[0])) this.setAttribute(name, value)",
                                              { quantity: 3, sku: "ROP-BRD-08", name: "Rope", basket: "[]" })
    assert part("estimate").has_selector?("[part=when]", text: "Rope.")
    assert_equal %w[quotes], @asked
  end

  # Moved on the page, as a list that is sorted moves what is in it.
  def test_a_part_that_is_moved
    visit_with("<section></section><gate-mile-estimate #{attributes(sku: "LOG-A4", more: "off")}></gate-mile-estimate>")
    part("estimate").find("select[name=country] option[value=GB]").select_option
    type_into(part("estimate").find("input[name=postcode]"), "TR29 4ZZ")
    page.execute_script("document.querySelector('section').append(document.querySelector('gate-mile-estimate'))")
    assert_equal ["GB", "TR29 4ZZ"], [part("estimate").find("select[name=country]").value, part("estimate").find("input[name=postcode]").value]
  end

  def test_a_milepost_while_the_door_is_away
    said = { offer: "o", moment: "away", text: "{remaining} to go", values: { remaining: { kind: "money", value: "5.00" } }, pages: [], closable: false }
    @answers["quotes"] = quote(mileposts: [said])
    visit_with("<gate-mile-milepost #{attributes}></gate-mile-milepost>")
    assert part("milepost").has_selector?("[data-moment=away]", text: "£5.00 to go")
    @answers["quotes"] = nil
    find("gate-mile-milepost").execute_script("this.cart = { lines: [{ sku: 'LOG-A4', quantity: 2 }] }")
    assert(eventually { @asked.count("quotes") == 2 })
    assert part("milepost").has_selector?("[data-moment=away]", text: "£5.00 to go")
  end

  # A region that nobody is asked for keeps no form from being sent, and is asked for where there are some.
  def test_a_region_that_is_required
    visit_with(<<~HTML)
      <form action="/" method="get"><gate-mile-address through="/gate">
        <label>Country <select name="country" autocomplete="country"></select></label>
        <label>Region <select name="region" autocomplete="address-level1" required></select></label>
      </gate-mile-address><button>Go on</button></form>
    HTML
    assert_selector "option[value=CA]", visible: :all
    find_field("Country").find("option[value=GB]").select_option
    assert_no_field "Region"
    assert find("form").evaluate_script("this.checkValidity()")
    find_field("Country").find("option[value=CA]").select_option
    assert_field "Region"
    refute find("form").evaluate_script("this.checkValidity()")
  end
end
