# frozen_string_literal: true

require_relative "../support/checkout"

# What is published, from when on it counts, and what changes for carts by it.
class ReleasesTest < Minitest::Test
  include CheckoutSupport

  def setup = fresh

  def state = api(:get, "/api/releases/state")
  def in_store_time(seconds) = GateMile::LocalMoment.local(Time.now + seconds, "Europe/London").strftime("%Y-%m-%dT%H:%M")

  def test_the_draft_counts_its_edits
    assert_equal [nil, nil], state.values_at("live", "changes")
    made = publish(by: "Ann", note: "The first")
    assert_equal [201, 1, "Ann", "The first"], [status, *made.values_at("number", "by", "note")]
    assert_equal [1, 0], state.values_at("live", "changes")
    reprice("uk-tracked", "6.25")
    reprice("ie-tracked", "13.00")
    assert_equal [1, 2], state.values_at("live", "changes")
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_equal 1, state["changes"]
    publish
    assert_equal [2, 0], state.values_at("live", "changes")
    api(:post, "/api/history/undo", { change: setup_now.dig("history", "undo", "id") })
    assert_equal 1, state["changes"], "what was published and then undone is a change too"
  end

  # The book of a release is what was exported then, to the byte, whatever comes after it.
  def test_a_release_never_changes
    made = publish
    book = api(:get, "/api/releases/1/book")
    reprice("uk-tracked", "6.25")
    assert_equal book, api(:get, "/api/releases/1/book")
    assert_equal [made["digest"]] * 2, [GateMile::Canonical.digest(book), GateMile::Canonical.digest(GateMile::Book.compile(book).dump)]
    release = Server::Records::Release.find(1)
    [-> { release.update!(note: "Else") }, -> { release.destroy! }].each do |act|
      assert_raises(ActiveRecord::RecordNotSaved, ActiveRecord::RecordNotDestroyed, &act)
    end
    ActiveRecord::Base.connection.execute("UPDATE releases SET digest = '#{"0" * 64}'")
    assert_raises(RuntimeError) { Server::Records::Release.find(1).text }
  end

  def test_what_nobody_looked_at_is_not_published
    publish
    assert_match(/Nothing has changed/, publish["detail"])
    assert_equal 409, status
    seen = setup_now["revision"]
    reprice("uk-tracked", "6.25")
    assert_match(/was changed since you looked/, api(:post, "/api/releases", { revision: seen })["detail"])
    assert_equal [409, 1], [status, state["live"]]
  end

  # One proof or several that do not hold keep it from being published, unless somebody says why.
  def test_proofs_that_do_not_hold
    Server::Records::Proof.delete_all
    carts = [1, 2].map { |units| { cart: cart(goods("LOG-A4", units)), at: nil } }
    [["A proof does not hold.", 1], ["2 proofs do not hold.", 2]].each_with_index do |(words, count), at|
      api(:post, "/api/proofs", carts[at])
      reprice("uk-tracked", "7.#{at}1")
      told = publish
      assert_equal [409, words, count], [status, told["detail"][/\A.*?\./], told["failing"].size]
      reprice("uk-tracked", FLAT["uk-tracked"])
    end
    reprice("uk-tracked", "7.77")
    assert_equal [1, "Dearer on purpose"], publish(overrule: "Dearer on purpose").values_at("number", "overruled")
  end

  # What is there under a number already is gone back to, not frozen once more.
  def test_the_same_twice
    publish
    reprice("uk-tracked", "6.25")
    publish
    api(:post, "/api/releases/1/return", {})
    assert_match(/Release 2 is the same\. Go back to it/, publish["detail"])
    assert_equal [409, 2], [status, Server::Records::Release.count]
  end

  def test_failing_proofs_bar_it_unless_overruled
    fresh(WHOLE_DEMO)
    publish
    reprice("uk-tracked", "6.95")
    refused = publish
    assert_equal [409, ["/overrule"]], [status, pointers(refused)]
    assert_includes refused["failing"], "Just short of free delivery"
    assert_equal 1, state["live"]
    refused = publish(overrule: "   ")
    assert_equal 409, status, refused
    made = publish(overrule: "Prices go up on Monday; the proofs follow.")
    assert_equal [201, "Prices go up on Monday; the proofs follow."], [status, made["overruled"]]
    reprice("ie-tracked", "13.00")
    api(:post, "/api/proofs/accept", { like: { state: "changed" } })
    assert_nil publish(overrule: "Not needed")["overruled"]
  end

  def test_at_a_moment
    publish
    reprice("uk-tracked", "6.25")
    past = publish(at: in_store_time(-3600))
    assert_equal [422, ["/at"]], [status, pointers(past)]
    assert_equal([422, ["/at"]], publish(at: "Friday").then { |one| [status, pointers(one)] })
    publish(at: in_store_time(7200), note: "Friday")
    planned = state["planned"]
    assert_equal [1, [2]], [state["live"], planned.map { |one| one["release"] }]
    later(7300) { assert_equal [2, []], state.values_at("live", "planned") }
    api(:delete, "/api/publications/#{planned.first["id"]}")
    assert_equal 204, status
    later(7300) { assert_equal 1, state["live"] }
    api(:delete, "/api/publications/#{planned.first["id"]}")
    assert_equal 404, status, "it is withdrawn already"
  end

  def test_what_is_live_is_not_withdrawn
    publish
    id = api(:get, "/api/releases")["publications"].first["id"]
    assert_match(/live already/, api(:delete, "/api/publications/#{id}")["detail"])
    assert_equal 409, status
    api(:delete, "/api/publications/none")
    assert_equal 404, status
  end

  def test_going_back
    publish
    reprice("uk-tracked", "6.25")
    publish
    assert_equal([409, 2], api(:post, "/api/releases/2/return", {}).then { [status, state["live"]] })
    back = api(:post, "/api/releases/1/return", { by: "Ann", note: "Too dear" })
    assert_equal [201, 1, "Ann"], [status, *back.values_at("release", "by")]
    assert_equal [1, 1], state.values_at("live", "changes")
    assert_equal %w[1 2], api(:get, "/api/releases")["publications"].map { |one| one["release"].to_s }.uniq.sort
    api(:post, "/api/releases/9/return", {})
    assert_equal 404, status
    api(:post, "/api/releases/2/return", { at: in_store_time(7200) })
    assert_equal [1, [2]], [state["live"], state["planned"].map { |one| one["release"] }]
    later(7300) { assert_equal 2, state["live"] }
  end

  # The clock is set back by two days: what is published now is live now, what is planned goes live at its time, and going back works.
  def test_a_clock_that_is_set_back
    publish
    reprice("uk-tracked", "6.25")
    later(-2 * 86_400) do
      publish(overrule: "Dearer")
      assert_equal 2, releases.number
      reprice("uk-tracked", "6.75")
      at = GateMile::LocalMoment.local(Time.now + 7200, "Europe/London").strftime("%Y-%m-%dT%H:%M")
      publish(at: at, overrule: "Dearer still")
      assert_equal 2, releases.number
      duties = Server::Duties.new(releases: releases, suite: Server::App.settings.suite)
      duties.round(Time.now + 7300)
      assert_equal 3, releases.number
      api(:post, "/api/releases/1/return", {})
      assert_equal [201, 1], [status, releases.number]
    end
    assert_equal 1, releases.number
  end

  # Two publications that are due at the same moment: the one that was asked for last.
  def test_the_last_word_counts
    publish
    reprice("uk-tracked", "6.25")
    at = in_store_time(7200)
    publish(at: at)
    api(:post, "/api/releases/1/return", { at: at })
    later(7300) { assert_equal 1, state["live"] }
  end

  # A clock that goes back does not take back what has begun to count.
  def test_a_clock_that_jumps
    publish
    reprice("uk-tracked", "6.25")
    publish
    Server::Records::Publication.update_all(told: true)
    releases.changed
    later(-7200) { assert_equal 2, releases.number }
    later(7200) { assert_equal 2, releases.number }
  end

  # Edits in a row: the comparison of an older draft ends for the newer one, and none is refused for want of a turn.
  def test_comparisons_beside_edits
    publish
    before = ENV.fetch("GATE_MILE_AUDIT_WAIT")
    ENV["GATE_MILE_AUDIT_WAIT"] = "0"
    6.times do |at|
      reprice("uk-tracked", "7.1#{at}")
      api(:get, "/api/releases/changes?from=1&to=draft")
      assert_equal 200, status
    end
    desk = Server::App.settings.comparisons
    ended = desk.instance_variable_get(:@works).values[0...-1].map(&:value)
    assert(ended.any? { |one| one[:ready] == false }, "nobody waits for the older ones, so they end without an answer")
    ENV["GATE_MILE_AUDIT_WAIT"] = before
    told = api(:get, "/api/releases/changes?from=1&to=draft")
    assert told["ready"]
    assert_equal 0, Server::SideProcess.running
    afters = told["carts"].flat_map { |one| one["methods"] }.select { |one| one["code"] == "TRACKED" }.map { |one| one["after"] }
    assert_includes afters, "7.15"
  ensure
    ENV["GATE_MILE_AUDIT_WAIT"] = before
  end

  # Whoever looks at old releases takes nothing away from shoppers: the live book stays compiled.
  def test_the_live_book_stays
    publish
    5.times { |at| reprice("uk-tracked", "6.2#{at}") && publish }
    number, live = releases.live
    (1...number).each { |old| releases.book(old) }
    assert_same live, releases.live.last
  end

  def test_what_changes_for_carts
    fresh(WHOLE_DEMO)
    publish
    reprice("ie-tracked", "13.00")
    zone = find("zones", "north-america")
    api(:patch, "/api/zones/north-america", { active: false, lock_version: zone["lock_version"] })
    told = api(:get, "/api/releases/changes?from=1&to=draft")
    assert_equal [true, ["North America"], []], told.values_at("ready", "lost", "gained")
    ireland = told["carts"].find { |one| one["zone"] == "Ireland" }
    assert_equal "13.00", ireland["methods"].find { |one| one["code"] == "TRACKED" }["after"]
    gone = told["carts"].find { |one| one["zone"] == "North America" }
    assert(gone["methods"].all? { |one| one["after"].nil? })
    assert_equal(["zone_off"], told["findings"].map { |one| one["code"] }, "what counts one rate fewer is not new")
    publish(overrule: "As agreed")
    assert_equal told.except("findings"), api(:get, "/api/releases/changes?from=1&to=2").except("findings"), "two releases, as release and draft"
    assert_equal [true, []], api(:get, "/api/releases/changes?from=2&to=draft").values_at("ready", "carts")
    %w[1&to=x 9&to=draft &to=].each do |query|
      api(:get, "/api/releases/changes?from=#{query}")
      assert_equal 404, status, query
    end
  end

  # The bench stands on the draft, or on any release.
  def test_the_bench_on_a_release
    publish
    reprice("uk-tracked", "6.25")
    on = ->(release) { api(:post, "/api/bench", { cart: cart, release: release })["quote"]["methods"].find { |one| one["code"] == "TRACKED" }["price"] }
    assert_equal ["5.95", "6.25"], [on.call(1), on.call(nil)]
    api(:post, "/api/bench", { cart: cart, release: 9 })
    assert_equal 404, status
  end

  # What takes longer is told as not there yet.
  def test_while_it_is_worked_out
    publish
    reprice("ie-tracked", "13.00")
    before = ENV.fetch("GATE_MILE_AUDIT_WAIT")
    ENV["GATE_MILE_AUDIT_WAIT"] = "0"
    early = api(:get, "/api/releases/changes?from=1&to=draft")
    ENV["GATE_MILE_AUDIT_WAIT"] = before
    assert_equal [false, []], early.values_at("ready", "carts")
    refute_empty api(:get, "/api/releases/changes?from=1&to=draft")["carts"]
  ensure
    ENV["GATE_MILE_AUDIT_WAIT"] = before
  end

  # What goes wrong while it is worked out is told as that, and never as "nothing changes".
  def test_a_fault_while_comparing
    publish
    reprice("ie-tracked", "13.00")
    said = StringIO.new
    Server::Log.to = said
    GateMile::CartChanges.stub(:new, ->(*, **) { raise "no room" }) { api(:get, "/api/releases/changes?from=1&to=draft") }
    assert_equal 500, status
    assert_match(/no room/, said.string)
    refute_empty api(:get, "/api/releases/changes?from=1&to=draft")["carts"]
  ensure
    Server::Log.to = nil
  end

  def test_findings_that_are_new
    fresh(WHOLE_DEMO)
    publish
    reprice("ie-tracked", "0.00")
    assert_includes api(:get, "/api/releases/changes?from=1&to=draft")["findings"].map { |one| one["code"] }, "free_beside_paid"
  end

  # The same moment for many: one of them publishes, the others are told that nothing has changed.
  def test_at_the_same_moment
    publish
    reprice("uk-tracked", "6.25")
    revision = setup_now["revision"]
    asked = Array.new(4) do
      Thread.new do
        Server::App.settings.publishing.publish({ "revision" => revision })
      rescue Server::Problem => e
        e
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
    made, refused = asked.map(&:value).partition { |one| one.is_a?(Server::Records::Release) }
    assert_equal [1, 3, 2], [made.size, refused.size, Server::Records::Release.count]
    assert(refused.all? { |one| one.status == 409 })
  end
end
