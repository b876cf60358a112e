# frozen_string_literal: true

require_relative "../support/server"

# Readers never wait for a writer, nobody for a book that somebody else wants, and what is busy says so.
class WaitingTest < Minitest::Test
  include ServerSupport

  # Every address that only reads, and every question, while somebody writes for as long as the test takes.
  def test_reads_and_quotes_while_a_writer_is_open
    fresh(ServerSupport::WHOLE_DEMO)
    api(:post, "/api/quote", CART)
    api(:post, "/api/releases", { revision: setup_now["revision"] })
    key = api(:post, "/api/keys", { name: "Shop", calls: %w[quotes methods served offers state] }).fetch("key")
    reads = Server::Contract.source["paths"].filter_map { |path, verbs| path if verbs.key?("get") && !path.include?("{") }
    rate = find("rates", "uk-tracked")
    # What the standards say is read once, whoever writes.
    asked = { "/api/products" => "?limit=5", "/api/releases/changes" => "?from=1&to=draft" }
    bearer = { "HTTP_AUTHORIZATION" => "Bearer #{key}" }
    reads.each { |path| api(:get, "#{path}#{asked[path]}", **bearer) }
    while_writing do
      reads.each do |path|
        took = timed { api(:get, "#{path}#{asked[path]}", **bearer) }
        assert_equal 200, status, path
        assert_operator took, :<, 4, "#{path} waited"
      end
      { "/api/quote" => CART, "/api/bench" => { "cart" => CART }, "/api/lines" => { "cart" => CART, "measure" => "value", "most" => "100.00" },
        "/api/gates" => CART,
        "/api/parcels" => { "cart" => CART, "rate" => nil }, "/api/landing" => { "country" => "GB" } }.each do |path, body|
        took = timed { api(:post, path, body) }
        assert_equal 200, status, path
        assert_operator took, :<, 4, "#{path} waited"
      end
      Server::App.settings.shelf.clear
      took = timed { api(:post, "/api/quote", CART) }
      assert_operator took, :<, 4, "a book is read and compiled beside a writer"
      # What would write is refused in words, and nothing is lost.
      patient(100) do
        answer = api(:patch, "/api/rates/uk-tracked", { lock_version: rate["lock_version"], name: "Held up" })
        assert_equal [503, "1"], [status, last_response["retry-after"]]
        assert_match(/busy/, answer["detail"])
        assert_equal 503, api(:post, "/api/history/undo", { change: 1 }).fetch("status")
      end
    end
    api(:patch, "/api/rates/uk-tracked", { lock_version: rate["lock_version"], name: "Held up" })
    assert_equal 200, status
  end

  def test_a_raw_statement_that_meets_a_busy_database_is_503_too
    fresh
    while_writing do
      patient(50) do
        assert_raises(*Server::Database::BUSY) { Server::Database.write { Server::Rows.open { |rows| rows.put("zones", "x", { "name" => "a" }, { "name" => "b" }) } } }
        assert_raises(ActiveRecord::LockWaitTimeout) { Server::Records::Zone.connection.execute("UPDATE zones SET name = name") }
      end
    end
    assert_equal 1, Server::Records::Zone.where(name: "Ireland").count
  end

  # What an edit reads is still so when it writes: two that read before they write never undo each other.
  def test_edits_hold_the_lock_from_their_beginning
    fresh
    counted = Array.new(6) do
      Thread.new do
        5.times do
          Server::Database.write do
            now = Server::Records::Zone.connection.select_value("SELECT name FROM zones WHERE id = 'ireland'")
            Thread.pass
            Server::Records::Zone.connection.execute("UPDATE zones SET name = '#{now}i' WHERE id = 'ireland'")
          end
        end
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
    counted.each(&:join)
    assert_equal 30, Server::Records::Zone.find("ireland").name.count("i")
  end

  def test_the_shelf_changes_in_one_step
    fresh
    shelf = Server::App.settings.shelf
    revision, book = shelf.current
    product = api(:get, "/api/products?limit=1")["products"].first
    api(:patch, "/api/products/#{product["id"]}", { lock_version: product["lock_version"], sku: "GHOST-1" })
    compile = GateMile::Catalogue.instance_method(:exchange)
    GateMile::Catalogue.define_method(:exchange) { |*| raise "no room" }
    assert_raises(RuntimeError) { shelf.current }
    GateMile::Catalogue.define_method(:exchange, compile)
    assert_same book, shelf.at(revision), "what was there is still there"
    _, renewed = shelf.current
    assert_equal ["GHOST-1", nil], [renewed.catalogue["GHOST-1"]&.sku, renewed.catalogue[product["sku"]]&.sku], "no SKU of a book that was never made"
    assert_equal GateMile::Book.compile(Server::BookDocument.read).dump["products"].to_set, renewed.dump["products"].to_set
    api(:patch, "/api/products/#{product["id"]}", { lock_version: product["lock_version"] + 1, sku: "GHOST-2" })
    assert_nil shelf.current.last.catalogue["GHOST-1"]
  ensure
    GateMile::Catalogue.define_method(:exchange, compile) if compile
  end

  def test_a_book_and_what_follows_from_it_are_worked_out_once
    fresh
    shelf = Server::BookShelf.new
    compiled = 0
    counting = GateMile::Book.method(:compile)
    GateMile::Book.define_singleton_method(:compile) do |*args, **more|
      compiled += 1
      counting.call(*args, **more)
    end
    books = all_at_once(8) { shelf.current.last }
    assert_equal [1, 1], [compiled, books.uniq(&:object_id).size]
    derived = 0
    values = all_at_once(8) do
      shelf.derived(:thing, 1) do
        sleep 0.1
        derived += 1
      end
    end
    assert_equal [1, [1]], [derived, values.uniq]
    shelf.derived(:thing, 2) { derived += 1 }
    assert_equal 2, derived, "something else that it depends on makes it anew"
    tries = 0
    make = -> { shelf.derived(:failing) { (tries += 1) == 1 ? raise("once") : :made } }
    assert_raises(RuntimeError) { make.call }
    assert_equal [:made, :made, 2], [make.call, make.call, tries], "what failed is tried again, and then kept"
  ensure
    GateMile::Book.define_singleton_method(:compile, counting) if counting
  end

  # Everybody who asks while a book is made has one that belongs together, and earlier ones stay.
  def test_books_by_revision_under_edits
    fresh
    shelf = Server::App.settings.shelf
    stop = false
    wrong = []
    readers = Array.new(3) do
      Thread.new do
        until stop
          revision, book = shelf.current
          name = book.zone("ireland").name
          wrong << [revision, name] unless ["Ireland", "Ireland #{revision}"].include?(name)
        end
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
    12.times do
      zone = find("zones", "ireland")
      api(:patch, "/api/zones/ireland", { lock_version: zone["lock_version"], name: "Ireland #{setup_now["revision"] + 1}" })
    end
    stop = true
    readers.each(&:join)
    assert_empty wrong
    assert_operator (1..setup_now["revision"]).count { |revision| shelf.at(revision) }, :<=, Server::BookShelf::KEPT
  end

  def test_the_journal_knows_what_lies_between_two_revisions
    Server::Journal.clear
    entry = ->(table, id, **row) { { "table" => table, "id" => id, "before" => nil, "after" => row.transform_keys(&:to_s) } }
    Server::Journal.add(5, [entry.call("products", "v", parent_id: "p")])
    Server::Journal.add(7, [entry.call("zones", "z"), entry.call("treatment_targets", "t", product_id: "q")])
    Server::Journal.add(6, [entry.call("treatment_targets", "t", shipping_class_id: "c")])
    found = Server::Journal.between(4, 7)
    assert_equal [%w[products class_targets zones product_targets], %w[v p q]], [found.tables, found.products], "in their order, whoever was noted first"
    assert_nil Server::Journal.between(3, 7), "something of which nothing is known lies in between"
    assert_equal([%w[zones product_targets], ["q"]], Server::Journal.between(6, 7).then { |one| [one.tables, one.products] })
    Server::Journal.add(8, Array.new(Server::Journal::MOST + 1) { |at| entry.call("products", at.to_s) })
    assert_nil Server::Journal.between(7, 8), "so much is sooner read anew"
    Server::Journal.add(9, nil)
    assert_nil Server::Journal.between(8, 9)
    all_at_once(6) { |at| Server::Journal.add(100 + at, []) }
    refute_nil Server::Journal.between(99, 105), "none is lost that were noted together"
    Server::Journal.clear
    assert_nil Server::Journal.between(99, 105)
  end

  # A book depends on its revision alone, not on the day on which it is read.
  def test_a_book_says_the_same_tomorrow
    fresh
    api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], holiday_region: "gb_eng" })
    today = Server::BookDocument.read["store"]["holidays"]
    at = Date.method(:today)
    Date.define_singleton_method(:today) { new(2051, 5, 5) }
    assert_equal today, Server::BookDocument.read["store"]["holidays"]
    assert_includes today, "2026-12-28", "Boxing Day of 2026 is a Saturday, and kept on the Monday (gov.uk, bank holidays)"
    %w[2030-12-25 2050-12-26 2079-12-25].each { |day| assert_includes today, day }
    assert_operator today.size, :<, GateMile::Store::HOLIDAYS
  ensure
    Date.define_singleton_method(:today, at) if at
  end

  # RFC 6585, section 4, and RFC 9110, section 10.2.3, on what is too often and when to come again.
  def test_what_is_public_is_paced
    calls = 0
    paced = Server::Doors::Pace.new(->(_) { [200, {}, [(calls += 1).to_s]] }, most: 5)
    ask = ->(path, from) { paced.call(Rack::MockRequest.env_for(path, "REMOTE_ADDR" => from, method: "POST")) }
    assert_equal ([200] * 5) + [429], Array.new(6) { ask.call("/public/mileposts", "192.0.2.1").first }
    status, headers, body = ask.call("/public/mileposts", "192.0.2.1")
    assert_equal [429, "application/problem+json", "60"], [status, headers["content-type"], headers["retry-after"]]
    assert_equal "Too often", JSON.parse(body.first)["title"]
    assert_equal [200, 200], [ask.call("/public/mileposts", "192.0.2.2").first, ask.call("/api/setup", "192.0.2.1").first],
                 "others, and what is not public, are not held up"
    assert_equal 7, calls
  ensure
    Server::Doors::Pace.new(app)
  end

  private

  # A second connection that holds the write lock meanwhile.
  def while_writing
    writer = SQLite3::Database.new(Server::Settings.database)
    writer.execute("BEGIN IMMEDIATE")
    writer.execute("UPDATE zones SET name = name || '?' WHERE id = 'ireland'")
    yield
  ensure
    writer.execute("ROLLBACK")
    writer.close
  end

  def timed
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
  end

  def all_at_once(count)
    gate = Queue.new
    threads = Array.new(count) do |at|
      Thread.new do
        gate.pop
        yield at
      ensure
        ActiveRecord::Base.connection_handler.clear_active_connections!
      end
    end
    count.times { gate << true }
    threads.map(&:value)
  end
end
