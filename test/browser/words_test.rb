# frozen_string_literal: true

require_relative "../support/browser"
require_relative "../support/sentences"

# Every sentence that stands for a code of the contract, as it stands on the screen.
class WordsTest < Minitest::Test
  include BrowserSupport

  def test_what_the_audit_finds
    found = Sentences::FINDINGS.map do |code, numbers, _|
      { key: code, code: code, numbers: numbers, harm: "warning", zone: "mainland", other: "ireland", example: nil, cart: nil, at: nil,
        setting: nil, part: "goods", asleep: false }
    end
    answer("Findings", "GET", %r{\A/api/findings}, { findings: found, progress: nil })
    visit "/goods/findings"
    assert_selector "#section li", count: found.size
    assert_told(Sentences::FINDINGS, all("#section li").map { |one| one.text[/: (.*?)\s*Snooze/m, 1] })
    assert_whole Sentences::FINDINGS, "Finding"
  end

  def test_the_lines_of_a_reckoning
    steps = Sentences::STEPS.map { |code, numbers, _| { step: "ordinary", code: code, numbers: numbers, amount: nil, setting: nil } }
    bench { |method| method.merge("reckoning" => steps) }
    visit "/?item=4*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    within("#bench") { click_button "Why £4.50 for Tracked?" }
    assert_selector "[role=dialog] section li", minimum: steps.size
    told = all("[role=dialog] section li").map { |one| one.text.lines.first.strip }
    assert_told(Sentences::STEPS, told.drop_while { |line| !line.start_with?("Left out") })
    assert_whole Sentences::STEPS, "ReckoningStep"
  end

  def test_why_a_method_is_not_there
    causes = Sentences::CAUSES.map { |code, numbers, _| { code: code, numbers: numbers, setting: nil } }
    bench { |method| method.merge("status" => "unavailable", "price" => nil, "causes" => causes) }
    visit "/?item=4*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    text = within("#bench") { find("li", text: "Tracked", match: :first).text }
    Sentences::CAUSES.each { |code, _, said| assert_includes text, said, code }
    assert_whole Sentences::CAUSES, "Cause"
  end

  def test_why_an_offer_does_not_act
    real = api(:post, "/api/bench", { cart: CART })
    outlook = { offer: "free-uk", state: "below", measure: "value", remaining: "12.60", threshold: "75.00", here: "62.40", methods: [],
                reasons: Sentences::REASONS.map { |code, numbers, _| { code: code }.merge(numbers) }, moment: nil, sure: true }
    outlook[:offer] = find_offer
    outlook[:state] = "blocked"
    real["quote"]["offers"] = [outlook]
    answer("Bench", "POST", %r{\A/api/bench}, real)
    visit "/offers?item=4*SHK-GAL-10&to=GB&postcode=TR29+4ZZ"
    text = find("ol[aria-label=Offers] > li", match: :first).text
    Sentences::REASONS.each { |code, _, said| assert_includes text, said, code }
    assert_whole Sentences::REASONS, "Reason"
  end

  # Where a price belongs: a zone that is called like its country is told once, a clause that decided is named.
  def test_where_the_cart_goes
    { "to=IE" => ["Tracked", "Goes to Ireland"],
      "to=GB&postcode=HS1+2AA" => ["Tracked", "Goes to the United Kingdom, postcode “HS”, so to Highlands & Islands"],
      "to=GB&postcode=TR29+4ZZ" => ["Tracked", "Goes to the United Kingdom, so to Mainland Britain"] }.each do |to, (method, said)|
      visit "/?item=1*STK-HULL&#{to}"
      within("#bench") { find("button[aria-label^='Why '][aria-label$=' for #{method}?']").click }
      within("[role=dialog] section") do
        assert_equal said, find("li", match: :first).text.delete_suffix("go to the zone").strip
      end
    end
  end

  # A country has its article within a sentence; of a zone that was removed since, no more is known.
  def test_where_carts_were_turned_away
    group = { status: "not_served", country: "US", region: nil, zone: nil, causes: [], goods: [{ sku: "LOG-A4", name: "Ship's log" }], times: 37, worth: "9.30",
              first_at: "2026-06-01T10:00:00Z", last_at: "2026-06-01T11:00:00Z", postcodes: [], cart: CART }
    gone = group.merge(status: "nothing_available", country: nil, zone: "shut", causes: ["too_heavy"], goods: [], times: 2)
    answer("TurnedAwayReport", "GET", %r{\A/api/turned-away},
           { since: "2026-05-03", carts: 39, worth: "737.10", groups: [group, gone], countries: { US: 37 }, chosen: [] })
    visit "/turned-away"
    assert_text "37 carts to the United States with Ship's log: no zone covers the address"
    assert_text "2 carts to a zone that is gone: too heavy"
  end

  def setup = fresh(WHOLE_DEMO)

  private

  def find_offer = setup_now["offers"].first["id"]

  # An answer of the server that holds to the contract, in place of its own.
  def answer(schema, verb, path, body)
    json = JSON.generate(body)
    assert_empty(Server::Contract.document.schema(schema).validate(JSON.parse(json)).map { |error| error["error"] })
    TURNSTILE.confuse(verb, path, json)
  end

  # The bench as the server answers it, with another first method that costs something.
  def bench
    return super unless block_given?

    real = api(:post, "/api/bench", { cart: CART })
    methods = real["quote"]["methods"]
    at = methods.index { |method| method["name"] == "Tracked" }
    methods[at] = yield(methods[at].merge("price" => "4.50"))
    answer("Bench", "POST", %r{\A/api/bench}, real)
  end

  def assert_told(wanted, said)
    wanted.zip(said).each { |(code, _, sentence), told| assert_equal sentence, told, code }
  end

  # No code of the contract is left out.
  def assert_whole(sentences, schema)
    codes = Server::Contract.source.dig("components", "schemas", schema, "oneOf").map { |one| one.dig("properties", "code", "const") }
    assert_equal codes.sort, sentences.map(&:first).uniq.sort
  end
end
