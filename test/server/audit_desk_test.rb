# frozen_string_literal: true

require_relative "../support/server"

# The audit while somebody waits for it: what is known is there at once, the rest is told as far as it is.
class AuditDeskTest < Minitest::Test
  include ServerSupport

  def setup
    fresh(WHOLE_DEMO)
    @shelf = Server::App.settings.shelf
  end

  def waiting(seconds)
    before = ENV.fetch("GATE_MILE_AUDIT_WAIT")
    ENV["GATE_MILE_AUDIT_WAIT"] = seconds.to_s
    yield
  ensure
    ENV["GATE_MILE_AUDIT_WAIT"] = before
  end

  def codes(found) = found.map(&:code)

  # At first without the quoted part, with how far that is; then whole, and the same as if it had been asked at once.
  def test_what_takes_longer_is_told_as_far_as_it_is
    desk = Server::AuditDesk.new(@shelf)
    found, progress = waiting(0) { desk.findings }
    refute_nil progress
    assert_includes codes(found), :no_way
    refute_includes codes(found), :nothing_left
    whole, progress = desk.findings
    assert_nil progress
    assert_includes codes(whole), :nothing_left
    assert_equal GateMile::Audit.findings(@shelf.current.last, at: Time.now).map(&:key).sort, whole.map(&:key).sort
  end

  # The contract tells both, and snoozing many is one change.
  def test_through_the_door
    told = waiting(0) { api(:get, "/api/findings") }
    assert_equal %w[done total], told["progress"].keys.sort
    found = api(:get, "/api/findings")
    assert_nil found["progress"]
    keys = found["findings"].select { |one| one["code"] == "no_way" }.map { |one| one["key"] }
    assert_equal 7, keys.size
    api(:put, "/api/findings/asleep", { keys: keys, asleep: true })
    assert_equal keys.sort, api(:get, "/api/findings")["findings"].select { |one| one["asleep"] }.map { |one| one["key"] }.sort
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_empty(api(:get, "/api/findings")["findings"].select { |one| one["asleep"] })
  end

  # An edit while the last audit still runs: the newer book counts, whatever is ready first.
  def test_an_edit_overtakes_it
    desk = Server::AuditDesk.new(@shelf)
    waiting(0) { desk.findings }
    rates = setup_now["rates"].select { |rate| rate["zone"] == "ireland" }
    rates.each { |rate| api(:patch, "/api/rates/#{rate["id"]}", { active: false, lock_version: rate["lock_version"] }) }
    found, = desk.findings
    assert_includes found.select { |one| one.code == :no_rate }.map(&:zone), "ireland"
    assert_equal GateMile::Audit.findings(@shelf.current.last, at: Time.now).map(&:key).sort, found.map(&:key).sort
  end

  # Edits in a row: only what stands for a while is quoted, and who waited for an older book is answered.
  def test_it_begins_once_edits_pause
    desk = Server::AuditDesk.new(@shelf)
    before = ENV.fetch("GATE_MILE_AUDIT_REST")
    ENV["GATE_MILE_AUDIT_REST"] = "30"
    early = Thread.new { desk.findings }
    sleep 0.05 until early.stop?
    rate = setup_now["rates"].first
    api(:patch, "/api/rates/#{rate["id"]}", { active: false, lock_version: rate["lock_version"] })
    ENV["GATE_MILE_AUDIT_REST"] = "0"
    found, progress = desk.findings
    assert_nil progress
    assert_includes codes(found), :nothing_left
    assert early.join(10), "who asked before the edit waits no longer"
  ensure
    ENV["GATE_MILE_AUDIT_REST"] = before
  end

  # A cart that a finding has shows it where it says; what a quote of some cart gave cause for always has one.
  def test_carts_show_it_on_the_bench
    found = api(:get, "/api/findings")["findings"].select { |one| one["zone"] }
    # What no cart shows: regions that nobody serves, and what a carrier would have to be asked for.
    without = found.reject { |one| one["cart"] || one["example"] }
    assert_equal(%w[ends_early live_no_fallback regions_left_out], without.map { |one| one["code"] }.uniq.sort)
    assert_equal(["na-live"], without.filter_map { |one| one.dig("setting", "id") }.uniq)
    found.select { |one| one["cart"] }.each do |one|
      quote = api(:post, "/api/quote", one["cart"])
      assert_equal one["zone"], quote.dig("landing", "zone"), one["code"] if one["code"] != "all_hidden"
    end
  end
end
