# frozen_string_literal: true

require "csv"
require_relative "../support/server"

# Catalogues by the thousand: read through first, written in short steps that are one change, and nobody waits for it.
class ImportTest < Minitest::Test
  include ServerSupport

  COLUMNS = %w[sku variant_of name price weight class tags].freeze

  def setup = fresh(DEMO.merge("products" => []))

  def file(count, from: 1, **more)
    CSV.generate do |csv|
      csv << COLUMNS
      count.times do |at|
        number = from + at
        csv << [format("P-%05d", number), more[:parent], "Thing #{number}", format("%.2f", (number % 97) + 0.5r), "#{(number % 90) + 1} g",
                more.fetch(:class, number.odd? ? "Small" : "Novelty"), "t"]
      end
    end
  end

  def import(csv, store: true, **more)
    body = { csv: csv, mapping: COLUMNS.to_h { |column| [column, column] }, store: store, **more }
    lines = api(:post, "/api/products/import", body).lines.map { |line| JSON.parse(line) }
    last = lines.last
    last["result"] || last.fetch("problem")
  end

  def slices(size)
    before = Server::GoodsImport::SLICE
    unwarned { Server::GoodsImport.const_set(:SLICE, size) }
    yield
  ensure
    unwarned { Server::GoodsImport.const_set(:SLICE, before) }
  end

  def unwarned
    verbose = $VERBOSE
    $VERBOSE = nil
    yield
  ensure
    $VERBOSE = verbose
  end

  # However a file is cut, what becomes of it is the same: told, stored, and undone.
  def test_a_file_in_slices_is_the_file_in_one
    random = Random.new(6)
    8.times do
      csv = mixed(random)
      told = import(csv, store: false)
      results = [1000, 3, 1].map do |size|
        fresh(DEMO.merge("products" => shop))
        before = goods
        slices(size) do
          preview = import(csv, store: false)
          done = import(csv)
          assert_equal preview.except("stored"), done.except("stored"), "what is told is what is done"
          after = goods
          if (change = setup_now["history"]["undo"])
            api(:post, "/api/history/undo", { change: change["id"] })
            assert_equal before, goods
            api(:post, "/api/history/redo", { change: change["id"] })
            assert_equal after, goods
          end
          [done, after]
        end
      end
      assert_equal 1, results.uniq.size, csv
      refute_nil told["total"]
    end
  end

  def test_a_product_may_stand_behind_its_variants
    csv = [COLUMNS.join(","), "V-1,P-1,Small,,10 g,,", "V-2,P-1,Large,,20 g,,", "P-1,,Product,4.00,,,a; b", "V-3,P-9,Nobody's,,1 g,,", "P-9,,,,,,",
           "X-1,V-1,Of a variant,,1 g,,", "P-1,,Again,5.00,,,"].join("\n")
    slices(2) do
      done = import(csv)
      assert_equal [3, 4], [done["created"], done["faults"].size]
      assert_equal([[5, "variant_of"], [6, "name"], [7, "variant_of"], [8, "sku"]], done["faults"].map { |fault| fault.values_at("line", "field") })
      products = GateMile::Book.compile(Server::BookDocument.read).dump["products"]
      assert_equal([["P-1", %w[V-1 V-2]]], products.map { |product| [product["sku"], product["variants"].map { |variant| variant["sku"] }] })
      assert_equal 5, CSV.parse(done["faulty_csv"]).size
    end
  end

  # A file that stops being one is told before anything is written.
  def test_a_file_is_read_through_first
    csv = "#{file(40)}P-9,\"never closed,1.00\n"
    slices(5) do
      answer = import(csv)
      assert_equal [422, ["/csv"]], [answer["status"], answer["errors"].map { |error| error["pointer"] }]
      assert_equal [0, 0, 0], [Server::Records::Product.count, Server::Records::Change.count, Server::Records::ShippingClass.where(name: "Novelty").count]
    end
  end

  # Others edit and quote meanwhile; only goods are told to wait, and only while they are written.
  def test_nobody_waits_for_a_file
    api(:post, "/api/quote", CART)
    answers = Hash.new { |hash, key| hash[key] = [] }
    slices(40) do
      step = Server::LongChange.instance_method(:write)
      asked = self
      Server::LongChange.define_method(:write) do |&block|
        step.bind_call(self, &block)
        Thread.new { asked.send(:meanwhile, answers) }.join
      end
      done = import(file(160))
      assert_equal 160, done["created"]
    ensure
      Server::LongChange.define_method(:write, step)
    end
    assert_equal [[200], [200], [200]], answers.values_at(:quote, :setup, :zone).map(&:uniq)
    assert_equal [503], answers[:product].map(&:first).uniq
    assert_equal ["2"], answers[:product].map(&:last).uniq, "it says when to come again"
    assert_equal 1, Server::Records::Change.where(kind: "product").count, "one change"
    change = setup_now["history"]["undo"]
    assert_equal %w[import product], change.values_at("action", "kind"), "the newest, though others edited meanwhile"
    api(:post, "/api/history/undo", { change: change["id"] })
    assert_equal 0, Server::Records::Product.count
    assert_equal(200, api(:post, "/api/products", { sku: "A", name: "A", price: "1.00" }).then { status == 201 ? 200 : status })
  end

  # Half a file is part of no picture of the setup: what would take one is told to come again, and one taken before or after is whole.
  def test_no_picture_of_half_a_file
    fresh(WHOLE_DEMO)
    before = api(:get, "/api/setup/export")["products"].size
    told = Hash.new { |hash, key| hash[key] = [] }
    slices(40) do
      step = Server::LongChange.instance_method(:write)
      asked = self
      Server::LongChange.define_method(:write) do |&block|
        step.bind_call(self, &block)
        Thread.new { asked.send(:pictures, told) }.join
      end
      import(file(160))
    ensure
      Server::LongChange.define_method(:write, step)
    end
    assert_equal [[503], [503], [503]], told.values_at(:publish, :export, :csv).map(&:uniq)
    assert_equal [200], told[:bench].uniq, "which goes on with the goods as they were"
    assert_equal before + 160, api(:get, "/api/setup/export")["products"].size
    assert_equal 0, Server::Records::Release.count
  end

  def pictures(told)
    session = another_session
    post = ->(path, body) { session.post(path, JSON.generate(body), "CONTENT_TYPE" => "application/json").status }
    rate = Server::Records::Rate.find("uk-tracked")
    session.patch("/api/rates/uk-tracked", JSON.generate({ lock_version: rate.lock_version, name: "Edit #{rand}" }), "CONTENT_TYPE" => "application/json")
    revision = Server::Records::Store.revision
    told[:publish] << post.call("/api/releases", { revision: revision, overrule: "All the same" })
    told[:bench] << post.call("/api/bench", { cart: CART })
    told[:export] << session.get("/api/setup/export").status
    told[:csv] << session.get("/api/products.csv").status
  end

  # A mistake halfway leaves nothing behind; a server that was stopped halfway puts it back when it starts.
  def test_half_a_file_is_none
    Server::Log.to = StringIO.new
    slices(10) do
      step = Server::LongChange.instance_method(:write)
      [-> { raise "a fault of ours" }, -> { raise Server::Problem.new(422, "no") }].each do |fault|
        count = 0
        Server::LongChange.define_method(:write) do |&block|
          step.bind_call(self, &block)
          fault.call if (count += 1) == 3
        end
        answer = import(file(60))
        assert_includes [500, 422], answer["status"]
        assert_equal [0, 0, 0], [Server::Records::Product.count, Server::Records::Change.count, Server::Records::ShippingClass.where(name: "Novelty").count]
      end
      Server::LongChange.define_method(:write, step)
      Server::LongChange.define_method(:put_back) { raise NoMemoryError }
      count = 0
      Server::LongChange.define_method(:write) do |&block|
        step.bind_call(self, &block)
        raise "stopped" if (count += 1) == 3
      end
      assert_raises(NoMemoryError) { import(file(60)) }
      assert_equal [30, "storing"], [Server::Records::Product.count, Server::Records::Change.last.state]
      assert_nil setup_now["history"]["undo"], "what is not whole is in no list"
      Server::LongChange.recover
      assert_equal [0, 0], [Server::Records::Product.count, Server::Records::Change.count]
    ensure
      Server::LongChange.define_method(:write, step)
      Server::LongChange.remove_method(:put_back)
      unwarned { load File.join(Server::ROOT, "server/history/long_change.rb") }
    end
  ensure
    Server::Log.to = nil
  end

  # Undoing is done in steps too, and goes on where it was stopped.
  def test_an_undo_that_was_stopped_goes_on
    slices(10) do
      import(file(50))
      change = Server::Records::Change.last
      assert_operator change.parts.count, :>=, 5
      change.update!(state: "undoing")
      part = change.parts.last
      Server::Database.write do
        Server::History.replay(part.entries, undone: true)
        part.update!(undone: true)
      end
      assert_equal 40, Server::Records::Product.count
      Server::LongChange.recover
      assert_equal [0, true, nil], [Server::Records::Product.count, change.reload.undone, change.state]
      api(:post, "/api/history/redo", { change: change.id })
      assert_equal [200, 50], [status, Server::Records::Product.count]
    end
  end

  # A file of very many rows is compiled before it counts: the first quote finds the book there.
  def test_a_large_catalogue_is_compiled_once_and_before_it_counts
    most = Server::Journal::MOST
    unwarned { Server::Journal.const_set(:MOST, 20) }
    api(:post, "/api/quote", CART)
    compiled = []
    compile = GateMile::Book.method(:compile)
    GateMile::Book.define_singleton_method(:compile) { |*args, **more| compile.call(*args, **more).tap { compiled << Thread.current } }
    slices(25) { import(file(120)) }
    assert_equal 1, compiled.size
    quote = api(:post, "/api/quote", CART.merge("lines" => [{ "sku" => "P-00007", "quantity" => 1 }]))
    assert_equal [1, "Thing 7"], [compiled.size, quote["lines"].first["name"]], "the first who asks does not wait"
    GateMile::Book.define_singleton_method(:compile, compile)
    assert_equal GateMile::Book.compile(Server::BookDocument.read).dump["products"].to_set, Server::App.settings.shelf.current.last.dump["products"].to_set
    product = api(:get, "/api/products?q=P-00007")["products"].first
    api(:patch, "/api/products/#{product["id"]}", { lock_version: product["lock_version"], sku: "Q-7" })
    book = Server::App.settings.shelf.current.last
    assert_equal ["Q-7", nil], [book.catalogue["Q-7"]&.sku, book.catalogue["P-00007"]], "and edits go on from there"
  ensure
    GateMile::Book.define_singleton_method(:compile, compile) if compile
    unwarned { Server::Journal.const_set(:MOST, most) }
  end

  private

  def meanwhile(answers)
    session = another_session
    json = ->(verb, path, body) { session.public_send(verb, path, JSON.generate(body), "CONTENT_TYPE" => "application/json") }
    answers[:setup] << session.get("/api/setup").status
    answers[:quote] << json.call(:post, "/api/quote", CART).status
    zone = JSON.parse(session.get("/api/setup").body)["zones"].find { |one| one["id"] == "ireland" }
    answers[:zone] << json.call(:patch, "/api/zones/ireland", { lock_version: zone["lock_version"], nothing_text: "At #{answers[:zone].size}" }).status
    answers[:product] << json.call(:post, "/api/products", { sku: "MEANWHILE", name: "M", price: "1.00" }).then do |answer|
      [answer.status, answer["retry-after"]]
    end
  ensure
    ActiveRecord::Base.connection_handler.clear_active_connections!
  end

  def shop
    [{ "sku" => "P-00001", "name" => "There", "price" => "1.00", "weight" => "1 g" },
     { "sku" => "P-00002", "name" => "With variants", "price" => "2.00", "tags" => ["old"],
       "variants" => [{ "sku" => "V-1", "name" => "One", "weight" => "5 g" }] }]
  end

  # Rows of every kind: new, known, with faults, twice, variants before and behind their products.
  def mixed(random)
    rows = Array.new(random.rand(6..14)) do |at|
      sku = ["P-0000#{random.rand(1..6)}", "V-#{random.rand(1..4)}", "N-#{at}", ""].sample(random: random)
      parent = ["", "", "", "P-00002", "P-0000#{random.rand(1..6)}", "V-1", "NOPE"].sample(random: random)
      [sku, parent, ["Thing #{at}", "Thing #{at}", ""].sample(random: random), ["#{random.rand(1..9)}.50", "x", ""].sample(random: random),
       ["#{random.rand(1..90)} g", "9 tonnes", "2000 kg", ""].sample(random: random),
       ["Small", "Novelty", "Other #{random.rand(2)}", ""].sample(random: random), ["", "t", "old"].sample(random: random)]
    end
    CSV.generate { |csv| [COLUMNS, *rows].each { |row| csv << row } }
  end

  # The catalogue by what it says: ids of what comes are new each time.
  def goods
    JSON.parse(JSON.generate(GateMile::Book.compile(Server::BookDocument.read).dump)).then { |book| [named(book), book["classes"].map { |item| item["name"] }] }
  end

  def named(book)
    names = book["classes"].to_h { |item| [item["id"], item["name"]] }
    book["products"].map do |product|
      [product, *product.fetch("variants", [])].map { |item| item.merge("class" => names[item["class"]]).except("variants") }
    end
  end
end
