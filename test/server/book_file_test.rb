# frozen_string_literal: true

require "open3"
require "time"
require "tmpdir"
require_relative "../support/server"

# The whole setup as a file: out, in, and quoted without server or database.
class BookFileTest < Minitest::Test
  include ServerSupport

  def export = api(:get, "/api/setup/export")
  def import(book, store: true) = api(:post, "/api/setup/import", { book: book, store: store })

  def test_out_and_in_is_the_same
    [ServerSupport::WHOLE_DEMO, DEMO].each do |book|
      fresh(book)
      file = export
      assert_match(/attachment/, last_response["content-disposition"])
      same = import(file, store: false)
      assert_equal [0], same["lists"].values.flat_map { |list| list.values.map { |one| one["count"] } }.uniq
      assert_equal [false, false, { "come" => 0, "go" => 0, "change" => 0 }], same.values_at("store", "stored", "rates")
      import(file)
      assert_nil setup_now["history"]["undo"], "where nothing changes there is nothing to undo"
      fresh(nil)
      import(file)
      assert_equal 200, status
      assert_equal file, export, "export after import is the identity"
    end
    schema = JSONSchemer.schema(JSON.parse(File.read(File.join(Server::ROOT, "docs/formats/book.schema.json"))))
    assert_empty(schema.validate(export).map { |error| error["error"] })
  end

  # Generated setups of every kind, each in the place of the one before; and back, step by step.
  def test_each_in_the_place_of_another_and_back
    fresh(ServerSupport::WHOLE_DEMO)
    random = Random.new(9)
    states = [export]
    5.times do
      book = changed(JSON.parse(JSON.generate(states.last)), random)
      told = import(book, store: false)
      done = import(book)
      assert_equal 200, status, done
      assert_equal told.except("stored"), done.except("stored"), "what is told is what is done"
      same(GateMile::Book.compile(book).dump, export, "and what is done is what the file says")
      by_sku = ->(found) { found.merge("products" => found["products"].sort_by { |product| product["sku"] }) }
      same(by_sku.call(export.except("proofs")), by_sku.call(Server::App.settings.shelf.current.last.dump), "the shelf knows")
      states << export
    end
    (states.size - 1).downto(1) do |at|
      api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
      same(states[at - 1], export, "back")
    end
    api(:post, "/api/history/redo", { change: setup_now["history"]["redo"]["id"] })
    assert_equal states[1], export
  end

  def test_what_comes_and_goes_is_told
    fresh(ServerSupport::WHOLE_DEMO)
    book = export
    book["zones"].reject! { |zone| zone["id"] == "further-europe" }
    book["rates"].reject! { |rate| rate["zone"] == "further-europe" }
    book["zones"] << { "id" => "moon", "name" => "The Moon", "areas" => [{ "kind" => "country", "country" => "AQ" }] }
    book["products"].first["price"] = "999.00"
    book["store"]["name"] = "Another quay"
    told = import(book, store: false)
    assert_equal([["The Moon"], ["Further Europe"]], told["lists"]["zones"].values_at("come", "go").map { |one| one["names"] })
    assert_equal [book["products"].first["sku"]], told["lists"]["products"]["change"]["names"]
    assert_equal [true, 0, 2], [told["store"], told["rates"]["come"], told["rates"]["go"]]
    assert_equal "Tarrow Quay Chandlery", setup_now["store"]["name"], "nothing is done by looking"
  end

  # What was seen is what is done: an edit in between, from another tab, is not lost unseen.
  def test_an_edit_since_it_was_looked_at
    fresh(ServerSupport::WHOLE_DEMO)
    book = export
    book["methods"].first["name"] = "By the pier"
    seen = import(book, store: false)["revision"]
    api(:patch, "/api/rates/uk-tracked", { lock_version: 0, name: "Another tab" })
    api(:post, "/api/setup/import", { book: book, store: true, revision: seen })
    assert_equal 409, status
    assert_equal "Another tab", find("rates", "uk-tracked")["name"]
    now = import(book, store: false)
    assert_equal [seen + 1, 1], [now["revision"], now["rates"]["change"]], "and looking again shows the edit among what changes"
    assert api(:post, "/api/setup/import", { book: book, store: true, revision: now["revision"] })["stored"]
    assert_equal book, export
    fresh(nil)
    api(:post, "/api/store", SHOP)
    api(:post, "/api/setup/import", { book: book, store: true, revision: 0 })
    assert_equal 409, status, "somebody opened a shop meanwhile"
  end

  def test_faults_are_told_at_their_places_and_nothing_changes
    fresh(ServerSupport::WHOLE_DEMO)
    book = export
    before = export
    book["rates"][3]["zone"] = "nowhere"
    book["store"]["currency"] = "QQQ"
    assert_equal ["/book/store/currency"], pointers(import(book))
    book["store"]["currency"] = "GBP"
    assert_equal ["/book/rates/3/zone"], pointers(import(book))
    book["rates"][3]["zone"] = before["rates"][3]["zone"]
    book["store"]["holiday_region"] = "atlantis"
    assert_equal ["/book/store/holiday_region"], pointers(import(book))
    book["store"]["holiday_region"] = before["store"]["holiday_region"]
    book["zones"] << book["zones"].first.merge("id" => "twin")
    assert_equal ["/book/zones/#{book["zones"].size - 1}/name"], pointers(import(book))
    ["{", "[]", '{"store":true}', '{"book":[],"store":true}'].each { |body| assert_includes(400..422, api(:post, "/api/setup/import", body).then { status }) }
    assert_equal before, export
    fresh(nil)
    assert_equal 404, api(:get, "/api/setup/export")["status"]
  end

  # Names that change hands, and rows that point to each other, in whatever order they stand.
  def test_rows_take_each_others_names
    fresh(ServerSupport::WHOLE_DEMO)
    book = export
    before = export
    one, other = book["zones"].first(2)
    one["name"], other["name"] = other["name"], one["name"]
    skus = book["products"].first(2)
    skus.each { |product| product["tags"] = ["swapped"] }
    skus[0]["sku"], skus[1]["sku"] = skus[1]["sku"], skus[0]["sku"]
    import(book)
    assert_equal [200, book["zones"].map { |zone| zone["name"] }], [status, export["zones"].map { |zone| zone["name"] }]
    api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
    assert_equal before, export
  end

  def test_secrets_are_in_no_file_and_survive_one
    fresh(ServerSupport::WHOLE_DEMO)
    Server::History.unrecorded { Server::Records::Carrier.find("petrel").update!(address: "https://petrel.example", account: "TARROW", secret: "open sesame") }
    book = export
    ["sesame", "petrel.example", "TARROW"].each { |text| refute_includes JSON.generate(book), text }
    book["carriers"].first["name"] = "Petrel by air"
    book["carriers"] << { "id" => "new", "name" => "New carrier", "active" => true, "services" => [] }
    import(book)
    kept = Server::Records::Carrier.find("petrel")
    assert_equal ["Petrel by air", "https://petrel.example", "TARROW", "open sesame"], [kept.name, kept.address, kept.account, kept.secret]
    assert_nil Server::Records::Carrier.find("new").secret
    refute_includes Server::Records::Change.pluck(:entries).to_s, "sesame"
  end

  # bin/quote of a fresh clone, with nothing set: what it says of an exported file is what the bench says.
  def test_the_file_quoted_by_itself_is_what_the_bench_gives
    fresh(ServerSupport::WHOLE_DEMO)
    at = "2026-06-01T10:00"
    carts = [CART, CART.merge("destination" => { "country" => "FR" }),
             CART.merge("coupons" => ["NOPE"], "destination" => { "country" => "GB", "postcode" => "IM1 OAA" })]
    Dir.mktmpdir do |folder|
      File.write(File.join(folder, "book.json"), JSON.generate(export))
      carts.each do |cart|
        File.write(File.join(folder, "cart.json"), JSON.generate(cart))
        bench = api(:post, "/api/bench", { cart: cart, at: at })["quote"]
        moment = GateMile::LocalMoment.utc(at, "Europe/London").iso8601
        said, errors, done = Open3.capture3({ "PATH" => ENV.fetch("PATH"), "HOME" => Dir.home }, File.join(Server::ROOT, "bin/quote"), "book.json",
                                            "cart.json", moment,
                                            chdir: folder, unsetenv_others: true)
        assert done.success?, errors
        assert_equal bench, JSON.parse(said)
      end
      File.write(File.join(folder, "cart.json"), '{"lines":[{"sku":"A","quantity":0}]}')
      _, errors, done = Open3.capture3({ "PATH" => ENV.fetch("PATH"), "HOME" => Dir.home }, File.join(Server::ROOT, "bin/quote"), "book.json", "cart.json",
                                       chdir: folder, unsetenv_others: true)
      refute done.success?
      assert_match %r{cart.json/lines/0/quantity: out_of_range}, errors
    end
  end

  private

  # Books are long: what is told is where the first difference lies.
  def same(one, other, said)
    one, other = [one, other].map { |book| JSON.parse(JSON.generate(book)) }
    assert_nil difference(one, other), said
  end

  def difference(one, other, place = "")
    return if one == other

    alike = one.instance_of?(other.class) && [Hash, Array].include?(one.class) && one.size == other.size
    return "#{place}: #{one.inspect[0, 80]} / #{other.inspect[0, 80]}" unless alike

    keys = one.is_a?(Hash) ? one.keys | other.keys : one.each_index
    keys.lazy.filter_map { |key| difference(one[key], other[key], "#{place}/#{key}") }.first || "#{place}: the order of keys"
  end

  # Something else in some lists of a book: gone, moved, renamed, added.
  def changed(book, random)
    products = book["products"]
    products.shuffle!(random: random) if random.rand(3).zero?
    products.delete_at(random.rand(products.size))
    products.sample(3, random: random).each { |product| product["price"] = "#{random.rand(1..99)}.00" }
    products << { "sku" => "NEW-#{random.rand(10**6)}", "name" => "New", "price" => "1.00", "weight" => "0.25 kg",
                  "variants" => [{ "sku" => "NEW-#{random.rand(10**6)}-V", "name" => "Variant", "weight" => "3 oz" }] }
    book["zones"].shuffle!(random: random) if random.rand(2).zero?
    zone = book["zones"].sample(random: random)
    zone["name"] = "Zone #{random.rand(10**6)}"
    zone["areas"] = zone["areas"].shuffle(random: random)
    book["rates"].delete_at(random.rand(book["rates"].size)) if book["rates"].size > 4
    %w[offers rules].each { |list| book[list]&.delete_at(random.rand(book[list].size)) if random.rand(3).zero? }
    book["treatments"].sample(random: random)&.then { |treatment| treatment["active"] = !treatment["active"] }
    # Rates stand zone by zone, as a book is written.
    order = book["zones"].map { |one| one["id"] }
    book["rates"] = book["rates"].sort_by.with_index { |rate, at| [order.index(rate["zone"]), at] }
    book
  end
end
