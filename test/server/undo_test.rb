# frozen_string_literal: true

require_relative "../support/server"

# Whatever is removed comes back as it was, alone and in pairs; and what is secret stands nowhere.
class UndoTest < Minitest::Test
  include ServerSupport

  LISTS = { "zones" => "zones", "methods" => "methods", "rates" => "rates", "treatments" => "treatments", "classes" => "classes",
            "tax_classes" => "tax-classes",
            "groups" => "groups", "coupons" => "coupons", "offers" => "offers", "rules" => "rules", "boxes" => "boxes", "carriers" => "carriers" }.freeze

  def setup
    fresh(rich)
    @book = book
  end

  # Rules that hold only of one thing, offers for one thing, policies that name one box: whatever goes takes them along.
  def rich
    demo = JSON.parse(JSON.generate(ServerSupport::WHOLE_DEMO))
    ids = %w[zones methods groups coupons].to_h { |list| [list, demo[list].map { |item| item["id"] }] }
    facts = { "zone" => ids["zones"], "group" => ids["groups"], "coupon" => ids["coupons"], "class" => demo["classes"].map { |item| item["id"] } }
    demo["rules"] += facts.flat_map do |fact, list|
      list.map do |id|
        { "id" => "#{fact}-#{id}", "name" => "Only #{id}", "when" => { "any" => [{ "fact" => fact, "of" => [id] }] },
          "then" => [{ "kind" => "message", "text" => "Hello" }] }
      end
    end
    demo["rules"] += ids["methods"].map do |id|
      { "id" => "hides-#{id}", "name" => "Hides #{id}", "active" => false, "when" => { "any" => [] }, "then" => [{ "kind" => "hide", "methods" => [id] }] }
    end
    demo["offers"] += ids["methods"].map do |id|
      { "id" => "for-#{id}", "name" => "For #{id}", "active" => false, "methods" => [id], "effect" => { "kind" => "free" } }
    end
    demo["store"]["parcels"] = { "kind" => "boxes", "boxes" => [demo["store"]["boxes"].first["id"]] }
    demo
  end

  # An edit names its change; only the newest one can be undone, and what only reads names none.
  def test_an_edit_names_its_change
    first, second = setup_now["groups"].first(2)
    made = [first, second].map do |group|
      api(:patch, "/api/groups/#{group["id"]}", { lock_version: group["lock_version"], name: "#{group["name"]} too" })
      last_response.headers["gate-mile-change"]
    end
    assert_equal setup_now["history"]["undo"]["id"].to_s, made.last
    assert_nil last_response.headers["gate-mile-change"]
    assert_equal 409, api(:post, "/api/history/undo", { change: made.first.to_i }).fetch("status")
    made.reverse.each { |change| api(:post, "/api/history/undo", { change: change.to_i }) }
    assert_equal([first["name"], second["name"]], setup_now["groups"].first(2).map { |group| group["name"] })
  end

  def book = JSON.parse(JSON.generate(GateMile::Book.compile(Server::BookDocument.read).dump))

  # Straight from the database: the whole setup is long to read and to hold against the contract each time.
  MODELS = { "zones" => :Zone, "methods" => :ShippingMethod, "rates" => :Rate, "treatments" => :Treatment, "classes" => :ShippingClass,
             "tax_classes" => :TaxClass, "groups" => :CustomerGroup, "coupons" => :Coupon, "offers" => :Offer, "rules" => :Rule, "boxes" => :Box,
             "carriers" => :Carrier }.freeze

  def records(list) = Server::Records.const_get(MODELS.fetch(list))

  def remove(list, id)
    item = records(list).find_by(id: id) or return
    api(:delete, "/api/#{LISTS.fetch(list)}/#{id}?lock_version=#{item.lock_version}")
    assert_includes [204], status, "#{list} #{id}"
    true
  end

  def undo = Server::History.undo(Server::History.heads["undo"]["id"])

  def quotes
    api(:post, "/api/quote", CART)
    assert_equal 200, status
  end

  def test_everything_that_is_removed_alone_comes_back
    at = 0
    LISTS.each_key do |list|
      records(list).ids.each do |id|
        remove(list, id)
        quotes if (at += 1) % 5 == 1
        GateMile::Book.compile(Server::BookDocument.without_products, catalogue: GateMile::Catalogue.new)
        undo
        assert_equal @book, book, "#{list} #{id}"
      end
    end
    quotes
  end

  def test_everything_that_is_removed_in_pairs_comes_back
    random = Random.new(17)
    all = LISTS.keys.flat_map { |list| records(list).ids.map { |id| [list, id] } }
    all.combination(2).to_a.sample(Rounds.of(40), random: random).each do |pair|
      done = pair.count { |list, id| remove(list, id) }
      GateMile::Book.compile(Server::BookDocument.read)
      done.times { undo }
      assert_equal @book, book, pair.inspect
      redone = 0
      while (change = Server::History.heads["redo"]) && redone < done
        Server::History.redo(change["id"])
        redone += 1
      end
      assert_equal done, redone
      done.times { undo }
      assert_equal @book, book, "#{pair.inspect}, done again"
    end
  end

  def test_products_and_their_variants_come_back
    api(:get, "/api/products?limit=500")["products"].sample(12, random: Random.new(3)).each do |product|
      now = api(:get, "/api/products?q=#{product["sku"]}&limit=50")["products"].find { |one| one["id"] == product["id"] } or next
      api(:delete, "/api/products/#{product["id"]}?lock_version=#{now["lock_version"]}")
      assert_equal 204, status
      quotes
      undo
      assert_equal(@book["products"].sort_by { |one| one["sku"] }, book["products"].sort_by { |one| one["sku"] })
    end
  end

  # A rule that is emptied in memory before it goes is recorded as it stood.
  def test_a_row_is_recorded_as_the_database_held_it
    record = Server::Records::Rule.find("hides-pallet")
    Server::History.edit("delete", "rule", { name: "x" }) do
      record.then { |rule| rule.name = "Changed in memory" }
      record[:then] = []
      record.destroy!
    end
    entry = Server::Records::Change.last.entries.first
    assert_equal ["Hides pallet", nil], [entry["before"]["name"], entry["after"]]
    assert_equal [{ "kind" => "hide", "methods" => ["pallet"] }], JSON.parse(entry["before"]["then"])
    record = Server::Records::Zone.find("ireland")
    Server::Records::Zone.connection.execute("UPDATE zones SET nothing_text = 'Meanwhile' WHERE id = 'ireland'")
    Server::History.edit("update", "zone", { name: "x" }) { record.update!(name: "Éire") }
    entry = Server::Records::Change.last.entries.first
    assert_equal [{ "name" => "Ireland" }, { "name" => "Éire" }], entry.values_at("before", "after"), "only what was changed, as it was"
  end

  # Every column that is encrypted, changed alone and with others: in no name, no change, no answer, no error.
  def test_nothing_encrypted_is_told_anywhere
    carrier = -> { find("carriers", "petrel") }
    ["open sesame one", "open sesame two", nil, "open sesame three"].each do |secret|
      api(:patch, "/api/carriers/petrel", { lock_version: carrier.call["lock_version"], secret: secret })
      assert_equal 200, status
    end
    api(:patch, "/api/carriers/petrel", { lock_version: carrier.call["lock_version"], secret: "open sesame four", account: "X" })
    wrong = api(:patch, "/api/carriers/petrel", { lock_version: carrier.call["lock_version"], secret: "open sesame\nfive: x" })
    assert_equal [422, ["/secret"]], [status, pointers(wrong)]
    stale = api(:patch, "/api/carriers/petrel", { lock_version: 0, secret: "open sesame six" })
    assert_equal 409, status
    told = [api(:get, "/api/history"), api(:get, "/api/setup"), api(:get, "/api/setup/export"), wrong, stale, Server::Records::Change.all.map(&:attributes)]
    told.each { |one| refute_includes JSON.generate(one), "sesame" }
    assert_includes api(:get, "/api/history")["changes"].map { |change| change["names"]["fields"] }, "secret", "that it was changed is told"
    refute_match(/sesame/, Server::Records::Carrier.find("petrel").inspect)
    undo
    assert_equal "open sesame three", Server::Records::Carrier.find("petrel").secret, "undo knows it all the same"
    Server::Log.to = log = StringIO.new
    Server::Log.fault(RuntimeError.new("x"), "asking")
    refute_includes log.string, "sesame"
  ensure
    Server::Log.to = nil
  end

  # What earlier versions wrote down is erased, in the file too.
  def test_secrets_that_were_written_down_are_erased
    file = File.join(Dir.mktmpdir, "old.sqlite3")
    raw = SQLite3::Database.new(file)
    raw.execute("CREATE TABLE changes (id INTEGER PRIMARY KEY, kind TEXT, names TEXT)")
    raw.execute("CREATE TABLE offers (id TEXT)")
    raw.execute("INSERT INTO changes (kind, names) VALUES ('carrier', ?), ('carrier', ?), ('rate', ?)",
                [{ name: "P", fields: "secret", from: "sesame-old-secret", to: "sesame-new-secret" }.to_json, { name: "P", fields: "name", from: "A",
                                                                                                                to: "B" }.to_json,
                 { name: "R", fields: "plan", from: "1.00", to: "2.00" }.to_json])
    raw.execute("PRAGMA secure_delete = ON")
    require_relative "../../server/db/migrate/009_exact_history"
    statement = nil
    migration = ExactHistory.new
    migration.define_singleton_method(:execute) { |sql| raw.execute_batch(statement = sql) }
    migration.send(:forget_secrets)
    names = raw.execute("SELECT names FROM changes ORDER BY id").flatten.map { |text| JSON.parse(text) }
    assert_equal [{ "name" => "P", "fields" => "secret" }, { "name" => "P", "fields" => "name", "from" => "A", "to" => "B" }, %w[1.00 2.00]],
                 [*names.first(2), names[2].values_at("from", "to")]
    raw.close
    refute_includes File.binread(file), "sesame", statement
  end
end
