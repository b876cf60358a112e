# frozen_string_literal: true

require_relative "../support/browser"

# Every kind of thing that a merchant keeps is edited by the same engine: what is typed while a save is under way is
# stored too, what a broken server refuses waits and is sent again, and an edit from elsewhere is not overwritten.
class KindsTest < Minitest::Test
  include BrowserSupport

  # Where a thing is edited: its list in the setup and the interface, its id, the page, what opens it there, its field,
  # what the field writes, and a field that somebody else writes meanwhile.
  Place = Struct.new(:list, :id, :page, :opens, :label, :field, :other, keyword_init: true) do
    def api = "/api/#{list}/#{id}"
    def pattern = /\A#{Regexp.escape(api)}\z/
  end
  PLACES = [
    Place.new(list: "methods", id: "tracked", page: "/methods", label: "Name of Tracked", field: "name", other: { promise: "by Friday" }),
    Place.new(list: "zones", id: "ireland", page: "/zones#zone=ireland", label: "Zone name", field: "name", other: { active: false }),
    Place.new(list: "rates", id: "ie-tracked", page: "/#rate=ie-tracked&field=name", label: "Name in this zone", field: "name", other: { active: false }),
    Place.new(list: "classes", id: "heavy", page: "/goods/classes", label: "Name of Heavy", field: "name", other: { description: "lifted by two" }),
    Place.new(list: "treatments", id: "anchors", page: "/goods/treatments", opens: true, label: "Internal name", field: "name",
              other: { active: false }),
    Place.new(list: "groups", id: "trade", page: "/offers/registers", label: "Name of Trade", field: "name", other: nil),
    Place.new(list: "coupons", id: "slack-water", page: "/offers/registers", label: "Note of SLACKWATER", field: "note",
              other: { starts: "2026-01-01T00:00" }),
    Place.new(list: "offers", id: nil, page: "/offers", opens: true, label: "Internal name", field: "name", other: { active: false }),
    Place.new(list: "rules", id: nil, page: "/rules", opens: true, label: "Internal name", field: "name", other: { active: false }),
    Place.new(list: "carriers", id: "petrel", page: "/carriers", label: "Name", field: "name", other: { active: false })
  ].freeze

  def setup = fresh(WHOLE_DEMO)

  PLACES.each do |named|
    define_method("test_edits_of_#{named.list}") do
      place = found(named)
      open_at(place)
      typed_on(place)
      refused(place)
      changed_elsewhere(place) if place.other
    end
  end

  private

  # Things whose ids the demo makes up are the first of their list.
  def found(place)
    list = setup_now[place.list]
    list.any? { |one| one["id"] == place.id } ? place : place.dup.tap { |copy| copy.id = list.first["id"] }
  end

  def now(place) = find_setup(place.list, place.id)

  def open_at(place)
    visit place.page
    find("#section button[aria-expanded=false]", text: now(place)["name"], match: :first).click if place.opens
    assert_field place.label, match: :first
  end

  # The field is found by what it is called; its name in a list changes with the thing's.
  def input(place) = @input ||= find_field(place.label, match: :first)

  def type(place, text, *keys) = input(place).set(text).send_keys(*keys)

  # The second text is typed while the first is on its way.
  def typed_on(place)
    TURNSTILE.hold("PATCH", place.pattern)
    type(place, "First word", :enter)
    assert eventually { TURNSTILE.came.any? }, "nothing was sent of #{place.list}"
    type(place, "Second word", :enter)
    TURNSTILE.open
    assert_equal("Second word", eventually { now(place)[place.field].then { |text| text if text == "Second word" } }, place.list)
    assert_equal "Second word", input(place).value
    assert_no_text "not stored yet"
  end

  # A broken server loses nothing: the text stays in its field and is listed, and is stored when it is sent again.
  def refused(place)
    TURNSTILE.refuse("PATCH", place.pattern, 500)
    type(place, "Third word", :enter)
    assert_text "1 edit not stored yet"
    assert_equal "Third word", input(place).value
    assert_equal "Second word", now(place)[place.field]
    TURNSTILE.open
    click_button "1 edit not stored yet"
    within("[role=dialog]") { click_button "Try again", match: :first }
    assert_equal("Third word", eventually { now(place)[place.field].then { |text| text if text == "Third word" } }, place.list)
    assert_no_text "not stored yet"
    press(:escape)
  end

  # Somebody else writes another field while one types: both stand in the end.
  def changed_elsewhere(place)
    input(place).set("Fourth word")
    api(:patch, place.api, { lock_version: now(place)["lock_version"], **place.other })
    assert_equal 200, status
    input(place).send_keys(:enter)
    assert_equal("Fourth word", eventually { now(place)[place.field].then { |text| text if text == "Fourth word" } }, place.list)
    place.other.each { |field, value| assert_equal value, now(place)[field.to_s], "#{place.list} #{field}" }
  end
end
