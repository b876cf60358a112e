# frozen_string_literal: true

require_relative "../support/server"

# What each change did to a cart, told beside the change.
class EffectsTest < Minitest::Test
  include ServerSupport

  def test_what_the_latest_changes_did_to_a_cart
    fresh
    assert_empty effects
    tracked = price_of("uk-tracked")
    raise_to("9.95")
    assert_equal({ "uk-tracked" => { "before" => tracked, "after" => "9.95" } }, effects.last["rates"])
    elsewhere = find("rates", "ie-tracked")
    api(:patch, "/api/rates/ie-tracked", { lock_version: elsewhere["lock_version"], active: false })
    assert_empty effects.last["rates"], "another zone's rate does nothing to this cart"
    rate = find("rates", "uk-tracked")
    api(:patch, "/api/rates/uk-tracked", { lock_version: rate["lock_version"], active: false })
    assert_equal({ "before" => "9.95", "after" => nil }, effects.last["rates"]["uk-tracked"])
    changes = api(:get, "/api/history")["changes"]
    assert_equal(effects.map { |effect| effect["revision"] }.reverse, changes.map { |change| change["revision"] })
    # Undone, a change has done nothing; done again, the same.
    api(:post, "/api/history/undo", { change: changes.first["id"] })
    assert_equal({ "before" => nil, "after" => "9.95" }, effects.last["rates"]["uk-tracked"])
    api(:post, "/api/history/effects", { cart: { lines: [{ quantity: 0 }] } })
    assert_equal 422, status
  end

  # Only so many setups are kept: what came before them is not told, and nothing wrong is.
  def test_as_far_back_as_setups_are_kept
    fresh
    20.times do |at|
      raise_to(format("%d.50", at + 1))
      effects
    end
    told = effects
    assert_operator told.size, :<, 20
    assert_operator told.size, :>, 5
    told.each_cons(2) do |older, newer|
      assert_equal older["revision"] + 1, newer["revision"]
      assert_equal older["rates"]["uk-tracked"]["after"], newer["rates"]["uk-tracked"]["before"]
    end
    assert_equal "20.50", told.last["rates"]["uk-tracked"]["after"]
  end

  private

  def effects = api(:post, "/api/history/effects", { cart: CART })["effects"]
  def price_of(rate) = api(:post, "/api/quote", CART)["methods"].find { |method| method["rate"] == rate }["price"]

  def raise_to(amount)
    rate = find("rates", "uk-tracked")
    api(:patch, "/api/rates/uk-tracked", { lock_version: rate["lock_version"], plan: { schedule: { kind: "flat", amount: amount } } })
  end
end
