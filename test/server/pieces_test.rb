# frozen_string_literal: true

require "open3"
require "socket"
require_relative "../support/server"

# The server's smaller pieces, each by itself.
class PiecesTest < Minitest::Test
  include ServerSupport

  def setup = fresh(ServerSupport::WHOLE_DEMO)

  # However many ask, one works; where it fails, the next one tries again.
  def test_once_is_once
    once = Server::Once.new
    worked = Queue.new
    gate = Queue.new
    threads = Array.new(8) do
      Thread.new do
        once.value do
          worked << true
          gate.pop
          :done
        end
      end
    end
    Thread.pass until worked.size == 1
    gate << true
    assert_equal [[:done] * 8, 1], [threads.map(&:value), worked.size]
    assert_equal(:done, once.value { flunk })

    failing = Server::Once.new
    tries = 0
    2.times { assert_raises(IOError) { failing.value { (tries += 1) && raise(IOError) } } }
    assert_nil(failing.value { nil })
    assert_nil(failing.value { flunk("nothing is a value too") })
    assert_equal 2, tries
  end

  # Time, and the end of a connection, whichever is first.
  def test_an_effort_ends_with_its_time_or_its_asker
    refute Server::Effort.new({}, 30).call
    assert Server::Effort.new({}, -1).call
    here, there = Socket.pair(:UNIX, :STREAM)
    effort = Server::Effort.new({ "puma.socket" => here }, 30)
    refute effort.call
    there.write("more of a pipelined request")
    sleep 0.03
    refute effort.call, "who goes on talking is there"
    here.recv(100)
    there.close
    sleep 0.03
    assert effort.call
    assert effort.to_proc.call, "and stays gone"
    here.close
    assert Server::Effort.new({ "puma.socket" => here }, 30).gone?, "a socket of our own that is closed is gone too"
  end

  # It waits for whoever writes while the request goes on; what can't be written is told and stops nobody; whoever
  # starts over waits for it first, so that nothing of the last shop is written into the next.
  def test_what_is_written_beside_a_request
    count = 0
    Server::Beside.write("noting") { (count += 1) < 3 ? raise(SQLite3::BusyException) : count += 10 }
    Server::Beside.finish
    assert_equal 13, count, "tried again until it could be written, once"
    said = quietly do
      Server::Beside.write("noting it") { raise ActiveRecord::StatementInvalid, "attempt to write a readonly database" }
      Server::Beside.finish
    end
    assert_match(/noting it/, said)

    gate = Queue.new
    late = Server::Beside.write("noting") { gate.pop && Server::AuditLog.add(:exported, about: "late.csv") }
    opener = Thread.new { sleep(0.1) && (gate << true) }
    fresh
    assert_equal [false, 0], [late.alive?, Server::Records::AuditEntry.count]
    opener.join
  end

  # Names of regions are worked out once for a release of the library, and read from then on; a file that is none is
  # made anew, and where none can be written they are there all the same.
  def test_names_of_regions_are_put_aside
    Dir.mktmpdir do |folder|
      worked = 0
      found = GateMile::Countries::CODES.to_h { |code| [code, {}] }.merge("CA" => { "BC" => ["British Columbia", "province"] })
      read = lambda do |aside|
        Server::Subdivisions.clear
        Server::Settings.stub(:aside, aside) { Server::Subdivisions.stub(:work_out, -> { (worked += 1) && found }) { Server::Subdivisions.of("CA")["BC"] } }
      end
      file = Server::Settings.stub(:aside, folder) { Server::Subdivisions.file }
      assert_equal [["British Columbia", "province"], 1], [read.call(folder), worked]
      assert_equal [["British Columbia", "province"], 1, [File.basename(file)]], [read.call(folder), worked, Dir.children(folder)]
      ["", "{\"CA\":", "[]", "{\"CA\":{}}"].each do |text|
        File.write(file, text)
        before = worked
        assert_equal [["British Columbia", "province"], before + 1, found], [read.call(folder), worked, JSON.parse(File.read(file))]
      end
      before = worked
      2.times { read.call("/proc/nowhere") }
      assert_equal before + 2, worked
    end
  ensure
    Server::Subdivisions.clear
    known = ISO3166::Country["CA"].subdivisions
    assert_equal(known.to_h { |code, one| [code, [one.translations["en"], one.type]] }, Server::Subdivisions.of("CA"))
    assert_equal "Bavaria", Server::Subdivisions.of("DE")["BY"].first, "in English, where there is a name"
  end

  # A service often has no locale: what is put aside, the contract and the demo are read all the same.
  def test_files_are_read_without_a_locale
    asked = "require './server/boot'; Server::Contract.prepare; names = Server::Geography.all[:regions].values.flatten.map { |one| one[:name] }; " \
            "print names.all?(&:valid_encoding?), names.count { |name| !name.ascii_only? } > 100"
    2.times do
      said, status = Open3.capture2e({ "LC_ALL" => "C", "LANG" => nil }, RbConfig.ruby, "-e", asked, chdir: Server::ROOT)
      assert_equal [0, "truetrue"], [status.exitstatus, said.lines.last.to_s.strip], said
    end
  end

  # Every table of the setup is a part of the book or of its goods: what is touched is read anew.
  def test_every_table_is_a_part_of_the_book
    named = Server::BookDocument::PARTS.values.flatten.uniq + %w[products treatment_targets proofs]
    assert_empty Server::SetupRows::TABLES - named
    assert_empty named - Server::SetupRows::TABLES - %w[class_targets]
    assert_equal Server::BookDocument.without_products.keys, GateMile::Book.compile(Server::BookDocument.read).dump.keys - %w[products proofs]
  end

  # What is taken over from the last document is what would be read: after every kind of edit.
  def test_documents_in_part_are_documents_in_whole
    edits = {
      "rates" => -> { rename("rates", "uk-tracked", name: "Slowly") },
      "methods" => -> { rename("methods", "tracked", promise: "one day or another") },
      "zones" => -> { rename("zones", "highlands", name: "North") },
      "offers" => -> { rename("offers", setup_now["offers"].first["id"], name: "Free now and then") },
      "rules" => -> { rename("rules", setup_now["rules"].first["id"], active: false) },
      "treatments" => -> { rename("treatments", setup_now["treatments"].first["id"], name: "By hand") },
      "carriers" => -> { rename("carriers", "fulmar", name: "Fulmar") }
    }
    edits.each do |part, edit|
      before = Server::BookDocument.without_products
      from = Server::Records::Store.revision
      edit.call
      touched = Server::Journal.between(from, Server::Records::Store.revision).tables
      now = Server::BookDocument.without_products(last: before, touched: touched)
      assert_equal Server::BookDocument.without_products, now, part
      refute_equal before[part], now[part], part
      assert_same before["coupons"], now["coupons"], "what nobody touched is not read again"
    end
    api(:put, "/api/zones/order", { ids: setup_now["zones"].map { |zone| zone["id"] }.rotate(2) })
    shelf = Server::App.settings.shelf.current.last
    assert_equal GateMile::Book.compile(Server::BookDocument.read).dump.except("proofs"), shelf.dump, "rates stand zone by zone"
  end

  # A journal that does not reach back far enough says that it does not know.
  def test_a_journal_says_what_it_does_not_know
    revision = Server::Records::Store.revision
    rename("rates", "uk-tracked", name: "A")
    assert_equal [["rates"], [], { "rates" => ["uk-tracked"] }], Server::Journal.between(revision, revision + 1).to_a
    assert_nil Server::Journal.between(revision - 2, revision + 1)
    assert_nil Server::Journal.between(revision, revision + 2)
    Server::Journal.clear
    assert_nil Server::Journal.between(revision, revision + 1)
    assert_equal "priced", api(:post, "/api/quote", CART)["status"], "and then all is read anew"
  end

  # Rows of a setup: what stays keeps its id and its place, however much comes and goes around it.
  def test_rows_that_stay_keep_their_places
    random = Random.new(67)
    8.times do
      book = JSON.parse(JSON.generate(Server::BookDocument.read))
      now = Server::SetupRows.now
      taken = book["offers"].sample(random.rand(0..2), random: random)
      book["offers"] -= taken
      book["offers"] += [{ "id" => "new-#{random.rand(1000)}", "name" => "New", "active" => true, "effect" => { "kind" => "free" } }]
      rows = Server::SetupRows.new(GateMile::Book.compile(book).dump, now).rows
      kept = book["offers"][0...-1].map { |offer| offer["id"] }
      assert_equal(kept.map { |id| now["offers"][id]["position"] }, kept.map { |id| rows["offers"][id]["position"] })
      places = book["offers"].map { |offer| rows["offers"][offer["id"]]["position"] }
      assert_equal places.uniq.sort, places, "and the order is that of the file"
      %w[areas products zones stores treatment_targets].each { |table| assert_equal now[table], rows[table].slice(*now[table].keys), table }
    end
  end

  def test_rows_in_another_order_are_numbered_anew
    book = JSON.parse(JSON.generate(Server::BookDocument.read))
    book["zones"].rotate!(1)
    book["products"].reverse!
    rows = Server::SetupRows.new(GateMile::Book.compile(book).dump, Server::SetupRows.now).rows
    assert_equal(book["zones"].map { |zone| zone["id"] }, rows["zones"].values.sort_by { |row| row["position"] }.map { |row| row["id"] })
    heads = rows["products"].values.reject { |row| row["parent_id"] }.sort_by { |row| row["family"] }
    assert_equal(book["products"].map { |product| product["sku"] }, heads.map { |row| row["sku"] })
    by_id = rows["products"].transform_values { |row| row["family"] }
    rows["products"].each_value { |row| assert_equal by_id[row["parent_id"]], row["family"], "variants stay with their product" if row["parent_id"] }
  end

  # The public holidays of a region are those of every year that a book knows; the gem computes each year by itself.
  def test_holidays_of_a_region_year_by_year
    found = Server::BankHolidays.dates("gb_eng")
    assert_equal found.sort.uniq, found.sort
    assert_equal (2020..2079).to_a, found.map { |date| date[0, 4].to_i }.uniq.sort
    [2026, 2027, 2050].each do |year|
      own = Holidays.between(Date.new(year, 1, 1), Date.new(year, 12, 31), :gb_eng, :observed).map { |day| day[:date].iso8601 }
      assert_equal own.uniq.sort, found.select { |date| date.start_with?(year.to_s) }.sort
    end
    # Published by the British government (from memory): Good Friday and Boxing Day, observed on a Monday, in 2026.
    assert_empty %w[2026-04-03 2026-12-28] - found
    assert_empty Server::BankHolidays.dates(nil)
    assert_same found, Server::BankHolidays.dates("gb_eng")
  end

  # Calls to carriers are kept for the last few, with nothing in them that is secret.
  def test_a_snapshot_is_of_one_moment
    shelf = Server::App.settings.shelf
    revision, book = shelf.current
    assert_same book, shelf.at(revision)
    assert_nil shelf.at(revision + 1)
    rename("rates", "uk-tracked", name: "Later")
    assert_nil shelf.at(revision + 1), "nobody has asked for it"
    later, other = shelf.current
    assert_equal [revision + 1, "Later"], [later, other.rates.find { |rate| rate.id == "uk-tracked" }.name]
    assert_same book.catalogue, other.catalogue, "goods that nobody touched are taken over"
    assert_same book, shelf.at(revision), "the one before stays beside it"
    (Server::BookShelf::KEPT + 1).times do |at|
      rename("rates", "uk-tracked", name: "Later #{at}")
      shelf.current
    end
    assert_nil shelf.at(revision), "until it is too old"
  end

  private

  def rename(list, id, **fields)
    api(:patch, "/api/#{list}/#{id}", { lock_version: find(list, id)["lock_version"], **fields })
    assert_equal 200, status
  end
end
