# frozen_string_literal: true

require_relative "../support/browser"

# Shops as they are at the beginning and as nobody plans them: with nothing in them, and with names as long as names may be.
class ExtremesTest < Minitest::Test
  include BrowserSupport

  SECTIONS = %w[/ /zones /goods /goods/classes /goods/treatments /goods/boxes /rates /rates/classes /methods /offers /offers/registers
                /rules /rules/order /carriers /shop].freeze
  # A word that can't be broken, and words that can.
  LONG = "Donaudampfschifffahrtsgesellschaftskapitän and all that goes"
  NAMED = %w[zones methods classes groups offers rules treatments boxes carriers].freeze
  # What each section says where there is nothing.
  BLANK = { "/zones" => "There are no zones yet.", "/goods" => "There are no goods yet.", "/goods/classes" => "no classes",
            "/goods/treatments" => "no treatments",
            "/goods/boxes" => "no boxes", "/rates" => "There are no rates yet.", "/rates/classes" => "No rate prices by class yet.", "/offers" => "no offers",
            "/rules" => "no rules" }.freeze

  def teardown
    page.driver.resize(1280, 800)
    super
  end

  # A shop that has just been opened, then without anything at all: nothing is undefined, and it says what to do.
  def test_a_shop_with_nothing_in_it
    fresh(WHOLE_DEMO.merge(nothing))
    SECTIONS.each do |section|
      visit section
      at_every_width(800) do |width|
        assert_fits section, width
        refute_match(/undefined|NaN|\bnull\b|Infinity/, find("body").text, section)
      end
      assert_text BLANK[section] if BLANK.key?(section)
      assert_accessible "#{section} with nothing"
    end
    assert_text "No zone covers this address, so the shopper can’t order."
  end

  # Names of sixty characters everywhere, some of them without a place to break.
  def test_long_names_everywhere
    fresh(WHOLE_DEMO)
    rename
    SECTIONS.each do |section|
      visit "#{section}?item=4*SHK-GAL-10&item=1*OAR-180&to=GB&postcode=TR29+4ZZ"
      at_every_width(900) { |width| assert_fits section, width }
    end
    visit "/offers"
    find("#section button[aria-expanded=false]", text: name_of("offers"), match: :first).click
    assert_fits "an offer with long names", 1280
    assert_accessible "an offer with long names"
    visit "/rules"
    find("#section button[aria-expanded=false]", text: name_of("rules"), match: :first).click
    assert_fits "a rule with long names", 1280
    visit "/#rate=ie-tracked&field=plan"
    assert_fits "a rate with long names", 1280
    assert_accessible "long names on the Board"
  end

  private

  # A section as it stands, on a screen and on a phone.
  def at_every_width(height)
    assert_selector "#section h1"
    assert_no_selector "#section [aria-busy]", wait: 45
    [390, 1280].each do |width|
      page.driver.resize(width, height)
      yield width
    end
  end

  def nothing
    lists = %w[zones methods rates products classes treatments groups coupons offers rules carriers].to_h { |list| [list, []] }
    lists.merge("store" => WHOLE_DEMO["store"].merge("boxes" => []).except("parcels"))
  end

  def rename
    NAMED.each do |list|
      setup_now[list].each_with_index do |item, at|
        api(:patch, "/api/#{list}/#{item["id"]}", { lock_version: item["lock_version"], name: long_name(at) })
        assert_equal 200, status, "#{list} #{item["id"]}"
      end
    end
  end

  def long_name(at) = "#{at} #{LONG}"[0, 60]
  def name_of(list) = setup_now[list].first["name"]

  def assert_fits(what, width)
    wide = page.evaluate_script(<<~JS)
      document.documentElement.scrollWidth > innerWidth
        ? [...document.querySelectorAll('body *')].filter((one) => one.getBoundingClientRect().right > innerWidth + 1 && !one.closest('.overflow-auto, .overflow-x-auto, [role=grid]')).slice(0, 4).map((one) => one.outerHTML.slice(0, 140))
        : []
    JS
    assert_empty wide, "#{what}, #{width} wide"
  end
end
