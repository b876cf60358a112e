# frozen_string_literal: true

require_relative "../support/server"
require "minitest/mock"

# What takes long, beside the answers: in a process of its own, so many at a time, and only while somebody wants it.
class SideProcessTest < Minitest::Test
  include ServerSupport

  Side = Server::SideProcess
  GBP = GateMile::Currency["GBP"]

  def soon
    over = Time.now + 20
    sleep 0.01 until yield || Time.now > over
    assert yield
  end

  def alive?(pid)
    Process.kill(0, pid)
    true
  rescue Errno::ESRCH
    false
  end

  # One that runs until it is let go; its process as soon as it has begun.
  def lasting(who, wanted: -> { true })
    begun = Queue.new
    thread = Thread.new { Side.run(who, wanted: wanted, tell: begun.method(:push)) { |tell| tell.call(Process.pid) && sleep } }
    thread.report_on_exception = false
    [thread, begun.pop]
  end

  def test_it_answers_from_another_process_and_tells_by_the_way
    told = []
    pid, money = Side.run(:a, tell: told.method(:push)) do |tell|
      tell.call(1)
      tell.call("two")
      [Process.pid, GateMile::Money.new(5, GBP)]
    end
    refute_equal Process.pid, pid
    assert_equal [1, "two"], told
    assert_equal GateMile::Money.new(5, GBP), money
    refute alive?(pid)
    assert_equal 0, Side.running
  end

  # It asks for what it needs from the database. An error in answering ends it and reaches the caller.
  def test_it_asks
    assert_equal [2, %w[a a]], Side.run(:a, asked: ->(question) { question * 2 }) { |_, ask| [ask.call(1), ask.call(["a"])] }
    assert_raises(Server::Problem) { Side.run(:a, asked: ->(_) { raise Server::Problem.new(404, "Gone.") }) { |_, ask| ask.call(1) } }
    half = assert_raises(Side::Failed) do
      Side.run(:a) do |tell|
        Thread.new { sleep(0.02) && Process.kill(:KILL, Process.pid) }
        loop { tell.call("x" * 3_000_000) }
      end
    end
    assert_equal "it ended early", half.message
    assert_raises(Side::Failed) { Side.run(:a, asked: ->(_) { :late }) { |_, ask| Process.kill(:KILL, Process.pid) && ask.call(1) } }
    assert_equal 0, Side.running
  end

  # Notes which questions the child process asks.
  class Heard < Server::GoodsInShop
    def questions = @questions ||= []
    def answer(question) = super.tap { questions << question.first }
  end

  # Files of goods, previews of bulk changes and books are read in a child process, which stops when its client goes away.
  def test_imports_and_previews_of_many
    fresh(WHOLE_DEMO)
    heard = Heard.new
    csv = "sku,name,price\nNEW-1,Something new,2.00\nSHK-GAL-08,Shackle,9.90\n"
    mapping = %w[sku name price].to_h { |column| [column, column] }
    file = { csv: csv, mapping: mapping, sure: true }
    Server::GoodsInShop.stub(:new, heard) do
      api(:post, "/api/products/import", { **file, store: false })
      assert_equal %i[fields last_family rows skus skus], (heard.questions.sort - %i[last_places])
      heard.questions.clear
      done = api(:post, "/api/products/bulk", { scope: {}, set: { weight: "3 kg" }, store: false })
      assert_equal %i[found rows], heard.questions.uniq
      assert_operator done["changed"], :>, 20
      heard.questions.clear
      api(:post, "/api/products/import", { **file, store: true })
      assert_includes heard.questions, :skus
      assert_equal 990, Server::Records::Product.find_by(sku: "SHK-GAL-08").price_minor
    end
    rows = Server::Records::Product.order(:id).pluck(:id, :name)
    import = Server::GoodsImport.new("sku,name\nNEW-1,Otherwise\n", mapping.slice("sku", "name"))
    refused = assert_raises(Server::Problem) { Server::Routes::Products.stored(import, Server::App.settings.shelf, -> { false }) }
    assert_equal 503, refused.status
    assert_equal rows, Server::Records::Product.order(:id).pluck(:id, :name)
    refute Server::Records::Change.where.not(state: nil).exists?
    elsewhere = ->(_) { raise Server::Problem.new(409, Process.pid.to_s) }
    told = GateMile::Book.stub(:compile, elsewhere) { api(:post, "/api/setup/import", { book: WHOLE_DEMO, store: false }, status: 409) }
    refute_equal Process.pid.to_s, told["detail"]
    assert_equal 0, Side.running
  end

  # Nothing of the server goes along: neither its sockets nor its database.
  def test_it_holds_nothing_of_ours
    server = TCPServer.new("127.0.0.1", 0)
    fresh(WHOLE_DEMO)
    held = Side.run(:a) { Dir.children("/proc/self/fd").filter_map { |fd| File.readlink("/proc/self/fd/#{fd}") rescue nil } } # rubocop:disable Style/RescueModifier
    own = Dir.children("/proc/self/fd").filter_map { |fd| File.readlink("/proc/self/fd/#{fd}") rescue nil } # rubocop:disable Style/RescueModifier
    ours = ->(links) { links.grep(/socket:|\.sqlite3/) }
    refute_empty ours.call(own)
    assert_empty ours.call(held) & ours.call(own)
    assert_operator Server::Records::Zone.count, :>, 3, "the server keeps its own"
  ensure
    server&.close
  end

  # Errors arrive as they were raised; what nobody foresaw says how it ended, also where the process was killed.
  def test_errors
    problem = assert_raises(Server::Problem) { Side.run(:a) { raise Server::Problem.new(404, "Gone.") } }
    assert_equal [404, "Gone."], [problem.status, problem.message]
    invalid = assert_raises(GateMile::Invalid) { Side.run(:a) { GateMile::Cart.parse({}, GBP) } }
    refute_empty invalid.problems
    assert_match(/ZeroDivisionError/, assert_raises(Side::Failed) { Side.run(:a) { 1 / 0 } }.message)
    assert_raises(Side::Failed) { Side.run(:a) { Process.kill(:KILL, Process.pid) } }
    assert_raises(Side::Failed) { Side.run(:a) { -> {} } }
    assert_equal 0, Side.running
  end

  # Whoever goes away ends it, at once.
  def test_nobody_wants_it_any_more
    wanted = true
    thread, pid = lasting(:a, wanted: -> { wanted })
    wanted = false
    assert_nil thread.value
    refute alive?(pid)
  end

  # A second one of the same person waits for the first, and leaves where it is not wanted; too many are refused.
  def test_turns
    go = false
    first, = lasting(:a, wanted: -> { !go })
    waiting = Array.new(3) { Thread.new { Side.run(:a, wanted: -> { !go }) { 1 } } }
    soon { waiting.all?(&:stop?) }
    # Asking again and again changes nothing: those that were refused are not counted.
    tries = Array.new(4) { Thread.new { assert_raises(Server::Problem) { Side.run(:a, wanted: -> { !go }) { 1 } }.status } }
    assert_equal([429] * 4, tries.map { |one| one.join(5)&.value })
    assert_equal 2, Side.run(:b) { 2 }
    go = true
    assert_equal [nil] * 4, [first, *waiting].map(&:value)
    assert_equal 0, Side.running
  ensure
    go = true
  end

  # A machine without room for another process refuses for now.
  def test_no_room_for_a_process
    full = ->(*) { raise Errno::EAGAIN }
    refused = Process.stub(:fork, full) { assert_raises(Server::Problem) { Side.run(:a) { 1 } } }
    assert_equal 503, refused.status
    assert_equal 1, Side.run(:a) { 1 }
  end

  # Of all persons together only so many run.
  def test_so_many_at_a_time
    go = false
    most = [Etc.nprocessors, 3].max
    begun = Array.new(most) { |index| lasting(index, wanted: -> { !go }) }
    late = Thread.new { Side.run(:late) { :done } }
    sleep 0.2
    assert_equal most, Side.running
    assert late.alive?
    go = true
    begun.each { |pair| pair.first.join }
    assert_equal :done, late.value
  end

  # A server that is killed leaves none of them behind.
  def test_it_ends_with_whoever_waits_for_it
    reader, writer = IO.pipe
    server = Process.fork do
      Side.run(:a, tell: ->(pid) { writer.puts(pid) && writer.flush }) { |tell| tell.call(Process.pid) && sleep }
    end
    pid = reader.gets.to_i
    Process.kill(:KILL, server)
    Process.wait(server)
    soon { !alive?(pid) || File.read("/proc/#{pid}/stat").split[2] == "Z" }
  ensure
    [reader, writer].each(&:close)
  end

  # A fork while a thread waits for a busy database begins and ends as any other.
  def test_beside_a_thread_that_waits_for_the_database
    fresh
    writer = SQLite3::Database.new(Server::Settings.database)
    writer.execute("BEGIN IMMEDIATE")
    waits = Thread.new { Server::Database.write { Server::Records::Store.first.touch } }
    sleep 0.2
    asked = Thread.new { Side.run(:a) { GC.start || :done } }
    assert asked.join(15), "it never came back"
    assert_equal :done, asked.value
  ensure
    writer.execute("ROLLBACK")
    writer.close
    waits.join
  end

  # A walk is the same from there as it is here.
  def test_a_walk
    fresh(WHOLE_DEMO)
    zone = setup_now["zones"].first["id"]
    here = Server::WalkDocument.new(Server::App.settings.shelf.current.last, { "zone" => zone }).dump
    there = api(:post, "/api/walk", { zone: zone })
    assert_equal(JSON.parse(JSON.generate(here))["carts"].map { |cart| cart["gets"] }, there["carts"].map { |cart| cart["gets"] })
    api(:post, "/api/walk", { zone: "nowhere" }, status: 404)
  end
end
