# frozen_string_literal: true

require "support/server"

# Undo where several people edit one shop: each undoes what is theirs, unless they say otherwise, and nothing on which somebody else's edit stands.
class OwnUndoTest < Minitest::Test
  include ServerSupport

  def setup
    fresh
    BCrypt::Engine.cost = BCrypt::Engine::MIN_COST
    @people = { "Ann" => "owner", "Ben" => "editor" }.to_h do |name, role|
      [name, Server::Records::Person.create!(name: name, email: "#{name}@tarrow.example", role: role, password: "lantern gravel", made_at: Time.now)]
    end
    Server::People.changed
  end

  def teardown
    BCrypt::Engine.cost = BCrypt::Engine::DEFAULT_COST
    Server::Asking.now = nil
  end

  # @yield as somebody who is signed in
  def as(name)
    @who = name
    clear_cookies
    @cookies ||= {}
    @cookies[name] ||= Server::Sessions.make(@people.fetch(name), {})[/\A[^;]+/]
    set_cookie(@cookies[name])
    yield
  end

  def rename(list, id, name) = edit("/api/#{list}/#{id}", find(list, id), name: name)
  def edit(path, now, **fields) = api(:patch, path, fields.merge(lock_version: now["lock_version"]))

  # As the setup tells it to whoever is signed in; asked of the history itself, which is sooner done.
  def head(which)
    Server::Asking.now = Server::Asking.new(*@people.fetch(@who).then { |one| [one.id, one.name, one.role] })
    Server::History.heads[which]&.transform_keys(&:to_s)
  end

  def undo(id = head("undo")["id"], **more) = api(:post, "/api/history/undo", { change: id, **more })
  def again(id = head("redo")["id"], **more) = api(:post, "/api/history/redo", { change: id, **more })
  def name_of(list, id) = find(list, id)["name"]

  # A row as the setup tells it, without all the rest of the setup.
  def find(list, id)
    record = { "zones" => Server::Records::Zone, "rates" => Server::Records::Rate }.fetch(list).find(id)
    JSON.parse(JSON.generate(Server::Documents.public_send(list.delete_suffix("s"), record)))
  end

  def test_each_undoes_what_is_theirs
    as("Ann") { rename("zones", "mainland", "Britain") }
    as("Ben") { rename("zones", "ireland", "Eire") }
    as("Ann") do
      assert_equal([%w[Ann Ben], nil], [head("undo").slice("by").values + head("last").slice("by").values, head("redo")])
      undo
      assert_equal [200, "Eire"], [status, name_of("zones", "ireland")]
      refute_equal "Britain", name_of("zones", "mainland")
      assert_nil head("undo")
    end
    as("Ben") do
      assert_nil head("redo"), "what others have undone is theirs to redo"
      rename("zones", "near-europe", "Nearby")
    end
    as("Ann") do
      again
      assert_equal [200, "Britain", "Nearby"], [status, name_of("zones", "mainland"), name_of("zones", "near-europe")], "and outlives edits of others"
    end
  end

  def test_others_unless_one_says_so
    as("Ann") { rename("zones", "mainland", "Britain") }
    as("Ben") do
      assert_nil head("undo")
      theirs = head("last")["id"]
      assert_equal "Ann", undo(theirs)["by"]
      assert_equal [409, "Britain"], [status, name_of("zones", "mainland")]
      undo(theirs, others: true)
      assert_equal 200, status
      refute_equal "Britain", name_of("zones", "mainland")
      again(theirs)
      assert_equal 409, status
      again(theirs, others: true)
      assert_equal "Britain", name_of("zones", "mainland")
    end
  end

  # What stands on a change keeps it from being undone: the same field, a row that came or went with it, and what names such a row.
  def test_what_stands_on_it
    as("Ann") { rename("zones", "mainland", "Britain") }
    as("Ben") { rename("zones", "mainland", "Great Britain") }
    as("Ann") do
      assert_equal "Ben", undo.dig("blocking", "by")
      assert_equal [409, "Great Britain"], [status, name_of("zones", "mainland")]
    end
    made = as("Ann") { api(:post, "/api/zones", { name: "Elsewhere" }) }
    as("Ben") { api(:post, "/api/rates", { zone: made["id"], method: setup_now["methods"].first["id"], plan: { schedule: { kind: "flat", amount: "9.00" } } }) }
    assert_equal 201, status, last_response.body
    as("Ann") do
      assert_match(/Ben has changed something since/, undo["detail"])
      assert_equal [409, "Elsewhere"], [status, name_of("zones", made["id"])]
    end
  end

  def test_fields_apart_stand_on_their_own
    rate = "ie-tracked"
    as("Ann") { edit("/api/rates/#{rate}", find("rates", rate), plan: { schedule: { kind: "flat", amount: "99.00" } }) }
    as("Ben") { edit("/api/rates/#{rate}", find("rates", rate), active: false) }
    assert_equal 200, status
    as("Ann") do
      undo
      assert_equal 200, status
      assert_equal ["12.90", false], [find("rates", rate).dig("plan", "schedule", "amount"), find("rates", rate)["active"]]
    end
  end

  # What was removed comes back only where what it belongs to is still there.
  def test_what_it_belongs_to_is_gone
    as("Ann") { api(:delete, "/api/rates/ie-pallet?lock_version=#{find("rates", "ie-pallet")["lock_version"]}") }
    as("Ben") { api(:delete, "/api/zones/ireland?lock_version=#{find("zones", "ireland")["lock_version"]}") }
    assert_equal 204, status
    as("Ann") do
      before = setup_now
      undo
      assert_equal [409, before], [status, setup_now]
    end
    as("Ben") { undo }
    as("Ann") { undo && assert_equal([200, "ireland"], [status, find("rates", "ie-pallet")["zone"]]) }
  end

  # Any edits of two people, undone and redone in any order that is let: what is refused changes nothing, and when all is undone everything is as it was.
  def test_any_order
    3.times do |seed|
      fresh_history
      random = Random.new(seed)
      start = book
      14.times { as(%w[Ann Ben].sample(random: random)) { act(random) } }
      20.times do
        %w[Ann Ben].each { |name| as(name) { nil while head("undo") && undone? } }
        break if Server::Records::Change.done.none?
      end
      assert_empty Server::Records::Change.done.to_a, "seed #{seed}"
      assert_equal start, book, "seed #{seed}"
    end
  end

  def book = Server::Database.read { Server::BookDocument.read }.except("revision")

  def fresh_history
    Server::Records::Change.delete_all
    Server::App.settings.shelf.clear
  end

  def undone?
    undo
    status == 200
  end

  def act(random)
    asked = case random.rand(6)
            when 0, 1 then rename("zones", %w[mainland ireland near-europe].sample(random: random), "Zone #{random.rand(1000)}")
            when 2 then api(:post, "/api/methods", { name: "Way #{random.rand(10_000)}", code: "W#{random.rand(100_000)}" })
            when 3 then edit("/api/rates/ie-tracked", find("rates", "ie-tracked"), active: random.rand(2).zero?)
            when 4 then step("undo")
            else step("redo")
            end
    assert_includes [200, 201, 409], status, last_response.body if asked
  end

  def step(which)
    change = head(which) or return
    before = book
    api(:post, "/api/history/#{which}", { change: change["id"] })
    assert_equal before, book unless status == 200
    change
  end
end
