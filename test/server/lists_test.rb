# frozen_string_literal: true

require "support/server"

# Everything that a merchant keeps a list of is made, changed, put in order, duplicated and removed by the same rules: an
# edit of an older state is refused with what stands there now, a refusal changes nothing, and each step can be undone to
# exactly what was there before.
class ListsTest < Minitest::Test
  include ServerSupport

  # What a new one is made of; a change of it; a body that is wrong, and where.
  Kind = Struct.new(:path, :list, :draft, :change, :wrong, :at, keyword_init: true) do
    def api = "/api/#{path}"
  end
  HIDE = { "when" => { "all" => [] }, "then" => [{ "kind" => "message", "text" => "Hello" }] }.freeze
  SIZE = { "length" => "30 cm", "width" => "20 cm", "height" => "10 cm" }.freeze
  KINDS = [
    Kind.new(path: "zones", list: "zones", draft: { name: "New" }, change: { name: "Newer" }, wrong: { name: "" }, at: "/name"),
    Kind.new(path: "methods", list: "methods", draft: { name: "New" }, change: { promise: "soon" }, wrong: { name: "" }, at: "/name"),
    Kind.new(path: "rates", list: "rates", draft: { zone: "ireland", method: "collect", plan: nil }, change: { name: "By sea" },
             wrong: { plan: { schedule: { kind: "flat", amount: "dear" } } }, at: "/plan/schedule/amount"),
    Kind.new(path: "classes", list: "classes", draft: { name: "New" }, change: { description: "What is new" }, wrong: { name: "" }, at: "/name"),
    Kind.new(path: "treatments", list: "treatments", draft: { name: "New" }, change: { active: false },
             wrong: { price: { kind: "along", plus: "dear" } }, at: "/price/plus"),
    Kind.new(path: "groups", list: "groups", draft: { name: "New" }, change: { name: "Newer" }, wrong: { name: "" }, at: "/name"),
    Kind.new(path: "coupons", list: "coupons", draft: { code: "NEW" }, change: { note: "newest" }, wrong: { starts: "soon" }, at: "/starts"),
    Kind.new(path: "offers", list: "offers", draft: { name: "New", effect: { kind: "free" } }, change: { effect: { kind: "off", amount: "1.00" } },
             wrong: { effect: { kind: "off" } }, at: "/effect/amount"),
    Kind.new(path: "rules", list: "rules", draft: HIDE.merge("name" => "New"), change: { name: "Newer" },
             wrong: { then: [{ kind: "add", percent: "many" }] }, at: "/then/0/percent"),
    Kind.new(path: "boxes", list: "boxes", draft: { name: "New", size: SIZE }, change: { padding: "1 cm" }, wrong: { padding: "40 cm" }, at: "/padding"),
    Kind.new(path: "carriers", list: "carriers", draft: { name: "New" }, change: { account: "A-1" }, wrong: { address: "nowhere" }, at: "/address")
  ].freeze
  ORDERED = KINDS.reject { |kind| %w[rates coupons].include?(kind.path) }.freeze
  COPIED = KINDS.select { |kind| %w[zones methods offers rules].include?(kind.path) }.freeze

  def setup = fresh(WHOLE_DEMO)

  def test_made_changed_and_removed
    KINDS.each do |kind|
      before = list(kind)
      made = api(:post, kind.api, kind.draft)
      assert_equal 201, status, "#{kind.path}: #{last_response.body}"
      assert_equal [*before.map { |one| one["id"] }, made["id"]].sort, list(kind).map { |one| one["id"] }.sort, kind.path
      changed = changed_by(kind, made, kind.change)
      kind.change.each { |field, value| assert_equal plain(value), changed[field.to_s], kind.path }
      assert_equal made["lock_version"] + 1, changed["lock_version"], kind.path
      api(:delete, "#{kind.api}/#{made["id"]}?lock_version=#{changed["lock_version"]}")
      assert_equal 204, status, kind.path
      assert_equal before, list(kind), kind.path
    end
  end

  # An edit of an older state changes nothing and is told the newest; so is the removal of what has changed meanwhile.
  def test_an_older_state_is_refused_with_the_newest
    KINDS.each do |kind|
      made = api(:post, kind.api, kind.draft)
      newest = changed_by(kind, made, kind.change)
      before = everything
      told = api(:patch, "#{kind.api}/#{made["id"]}", { lock_version: made["lock_version"], **kind.change })
      assert_equal [409, newest], [status, told["current"]], kind.path
      api(:delete, "#{kind.api}/#{made["id"]}?lock_version=#{made["lock_version"]}")
      assert_equal 409, status, kind.path
      assert_equal before, everything, kind.path
    end
  end

  # What is wrong is told where it is, and nothing of it is stored: not its good fields either.
  def test_what_is_wrong_is_told_at_its_place
    KINDS.each do |kind|
      made = api(:post, kind.api, kind.draft)
      before = everything
      told = api(:patch, "#{kind.api}/#{made["id"]}", { lock_version: made["lock_version"], **kind.change, **kind.wrong })
      assert_equal [422, [kind.at]], [status, pointers(told)], "#{kind.path}: #{told}"
      told = api(:patch, "#{kind.api}/#{made["id"]}", { lock_version: made["lock_version"], colour: "blue" })
      assert_equal [422, ["/colour"]], [status, pointers(told)], kind.path
      told = api(:patch, "#{kind.api}/#{made["id"]}", kind.change)
      assert_equal [422, ["/lock_version"]], [status, pointers(told)], kind.path
      api(:patch, "#{kind.api}/none-such", { lock_version: 0, **kind.change })
      assert_equal 404, status, kind.path
      api(:delete, "#{kind.api}/none-such?lock_version=0")
      assert_equal 404, status, kind.path
      assert_equal before, everything, kind.path
    end
  end

  # Making, changing, moving, duplicating and removing, then back again step by step, and forward again.
  def test_each_step_is_undone_and_done_again
    KINDS.each do |kind|
      states = [everything]
      made = api(:post, kind.api, kind.draft)
      states << everything
      newest = changed_by(kind, made, kind.change)
      states << everything
      if ORDERED.include?(kind)
        api(:put, "#{kind.api}/order", { ids: list(kind).map { |one| one["id"] }.rotate })
        assert_equal 204, status, kind.path
        states << everything
        newest = list(kind).find { |one| one["id"] == made["id"] }
      end
      if COPIED.include?(kind)
        api(:post, "#{kind.api}/#{made["id"]}/copy", {})
        assert_equal 201, status, kind.path
        states << everything
      end
      api(:delete, "#{kind.api}/#{made["id"]}?lock_version=#{newest["lock_version"]}")
      states << everything
      states[..-2].reverse_each { |state| assert_state state, step(:undo), kind }
      states[1..].each { |state| assert_state state, step(:redo), kind }
    end
  end

  # An order names each of them once: no fewer, no others, none twice.
  def test_orders
    ORDERED.each do |kind|
      2.times { |at| api(:post, kind.api, kind.draft.merge((kind.draft.key?("name") ? "name" : :name) => "Another #{at}")) }
      ids = list(kind).map { |one| one["id"] }
      before = everything
      [ids.drop(1), [*ids, "none-such"], [*ids.drop(1), ids.last], ids.map(&:upcase)].each do |wrong|
        api(:put, "#{kind.api}/order", { ids: wrong })
        assert_includes [409, 422], status, "#{kind.path}: #{wrong}"
      end
      assert_equal before, everything, kind.path
      api(:put, "#{kind.api}/order", { ids: ids.reverse })
      assert_equal [204, ids.reverse], [status, list(kind).map { |one| one["id"] }], kind.path
    end
  end

  private

  def list(kind) = setup_now[kind.list]
  def plain(value) = JSON.parse(JSON.generate(value))

  def changed_by(kind, thing, change)
    api(:patch, "#{kind.api}/#{thing["id"]}", { lock_version: thing["lock_version"], **change }).tap { assert_equal 200, status, kind.path }
  end

  # All lists as they stand; versions and revisions only ever grow. It is asked for so often that the contract is left alone.
  def everything
    header "Host", "localhost"
    get "/api/setup"
    bare(JSON.parse(last_response.body).slice(*KINDS.map(&:list)))
  end

  def bare(value)
    case value
    when Hash then value.except("lock_version").transform_values { |one| bare(one) }
    when Array then value.map { |one| bare(one) }
    else value
    end
  end

  def step(way)
    change = setup_now["history"][way.to_s]
    api(:post, "/api/history/#{way}", { change: change["id"] })
    assert_equal 200, status
    everything
  end

  def assert_state(wanted, found, kind)
    wanted.each { |name, items| assert_equal items, found[name], "#{name} after a step of #{kind.path}" }
  end
end
