# frozen_string_literal: true

require_relative "../support/server"

# One list of columns for each record: documents, copies, books and the history follow from it.
class CopiesTest < Minitest::Test
  include ServerSupport

  # Columns that are written by something else than a merchant's word, and what it is.
  ELSEWHERE = { "stores" => %w[opening_cart revision], "areas" => %w[zone_id],
                "products" => %w[parent_id family price_minor cost_minor weight_ng shipping_class_id tax_class_id] }.freeze
  # A rate that says everything a rate can say.
  EVERYTHING = { "name" => "All of it", "active" => false, "plan" => { "schedule" => { "kind" => "flat", "amount" => "4.00" } },
                 "areas" => [{ "kind" => "country", "country" => "GB", "only" => ["TR"] }],
                 "cost" => { "schedule" => { "kind" => "flat", "amount" => "2.00" } },
                 "live" => { "services" => [{ "carrier" => "petrel", "service" => "LETTER" }], "answer" => "cheapest", "own" => "instead",
                             "promise" => "carrier",
                             "ladder" => %w[silent refused unusable].to_h { |trouble| [trouble, { "kind" => "none" }] } } }.freeze

  def test_no_column_is_in_no_list
    records.each do |model|
      said = model == Server::Records::Product ? Server::Records::GoodsField::ALL.map(&:name) - %w[price cost class tax_class] : model.said
      columns = model.column_names - Server::Records::Base::KEPT - ELSEWHERE.fetch(model.table_name, [])
      assert_equal columns.sort, said.sort, "#{model.table_name}: a column that no document, copy or book knows, or the other way round"
    end
  end

  # What a record says stands in its document, and comes back from it.
  def test_documents_say_all_that_is_said
    fresh(ServerSupport::WHOLE_DEMO)
    names = { "zone_id" => "zone", "shipping_method_id" => "method" }
    records.reject { |model| [Server::Records::Product, Server::Records::Area].include?(model) }.each do |model|
      hidden = { Server::Records::Carrier => %w[address account secret] }.fetch(model, [])
      record = model.first
      assert_empty (model.said - hidden).map { |column| names.fetch(column, column) } - record.document.keys, model.table_name
    end
    tables = Server::SetupRows::TABLES
    assert_equal records.map(&:table_name).sort, (tables - %w[treatment_targets]).sort, "an import knows every table of the setup"
  end

  def test_a_copy_of_a_zone_is_a_copy
    fresh(ServerSupport::WHOLE_DEMO)
    zone = find("zones", "ireland")
    api(:patch, "/api/zones/ireland",
        { lock_version: zone["lock_version"], nothing_text: "Ask us.", duty: { "percent" => "20", "carriage" => true, "included" => false } })
    rate = find("rates", "ie-tracked")
    api(:patch, "/api/rates/ie-tracked",
        { lock_version: rate["lock_version"], **EVERYTHING, "areas" => [{ "kind" => "country", "country" => "IE", "only" => ["D02"] }] })
    assert_equal 200, status
    before = setup_now
    made = api(:post, "/api/zones/ireland/copy", {})
    assert_equal 201, status
    strip = ->(document, *fields) { document.except("id", "lock_version", *fields) }
    original = before["zones"].find { |one| one["id"] == "ireland" }
    copy = made
    areas = ->(one) { one["areas"].map { |area| area.except("id", "zone") } }
    assert_equal strip.call(original, "name", "areas"), strip.call(copy, "name", "areas")
    assert_equal areas.call(original), areas.call(copy)
    rates = ->(setup, id) { setup["rates"].select { |one| one["zone"] == id }.map { |one| strip.call(one, "zone") } }
    assert_equal rates.call(before, "ireland"), rates.call(setup_now, made["id"])
    places = setup_now["zones"].map { |one| one["id"] }
    assert_equal places.index("ireland") + 1, places.index(made["id"]), "right below it"
  end

  def test_a_rate_in_other_zones_says_all_that_it_says
    fresh(ServerSupport::WHOLE_DEMO)
    rate = find("rates", "uk-tracked")
    api(:patch, "/api/rates/uk-tracked", { lock_version: rate["lock_version"], **EVERYTHING })
    assert_equal 200, status
    zones = %w[ireland further-europe]
    api(:post, "/api/rates/uk-tracked/copy", { ids: zones })
    assert_equal 204, status
    original = find("rates", "uk-tracked")
    zones.each do |zone|
      copy = setup_now["rates"].find { |one| one["zone"] == zone && one["method"] == original["method"] }
      assert_equal original.except("id", "zone", "lock_version"), copy.except("id", "zone", "lock_version"), zone
    end
  end

  def test_copies_of_methods_offers_and_rules
    fresh(ServerSupport::WHOLE_DEMO)
    %w[methods offers rules].each do |list|
      setup_now[list].each do |original|
        made = api(:post, "/api/#{list}/#{original["id"]}/copy", {})
        assert_equal 201, status
        assert_equal [false, "#{original["name"]}, copy"], made.values_at("active", "name")
        assert_equal original.except("id", "lock_version", "name", "active", "code"), made.except("id", "lock_version", "name", "active", "code"),
                     original["name"]
        ids = setup_now[list].map { |one| one["id"] }
        assert_equal ids.index(original["id"]) + 1, ids.index(made["id"])
      end
    end
    codes = setup_now["methods"].map { |one| one["code"].downcase }
    assert_equal codes.uniq, codes
    long = api(:post, "/api/offers", { name: "x" * 120, effect: { kind: "free" } })
    assert_equal 120, api(:post, "/api/offers/#{long["id"]}/copy", {})["name"].length
    assert_equal 404, api(:post, "/api/rules/nope/copy", {})["status"]
    GateMile::Book.compile(Server::BookDocument.read)
  end

  # A record copied says what the other says, whatever columns it has.
  def test_copied_takes_every_column
    fresh(ServerSupport::WHOLE_DEMO)
    records.reject { |model| [Server::Records::Product, Server::Records::Store].include?(model) }.each do |model|
      model.find_each do |record|
        copy = record.copied
        assert_equal record.said.except("code"), copy.said.except("code"), model.table_name
        assert_nil copy.id
      end
    end
  end

  def test_boxes_that_are_named_are_there
    fresh(ServerSupport::WHOLE_DEMO)
    boxes = setup_now["boxes"].map { |box| box["id"] }
    lock = -> { find("rates", "uk-tracked")["lock_version"] }
    plan = ->(*ids) { { "schedule" => { "kind" => "flat", "amount" => "1.00" }, "parcels" => { "kind" => "boxes", "boxes" => ids } } }
    answer = api(:patch, "/api/rates/uk-tracked", { lock_version: lock.call, plan: plan.call(boxes[0], "nope") })
    assert_equal [422, ["/plan/parcels/boxes/1"]], [status, pointers(answer)]
    answer = api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], parcels: { "kind" => "boxes", "boxes" => ["nope"] } })
    assert_equal [422, ["/parcels/boxes/0"]], [status, pointers(answer)]
    book = JSON.parse(JSON.generate(ServerSupport::WHOLE_DEMO))
    book["store"]["parcels"] = { "kind" => "boxes", "boxes" => ["nope"] }
    book["rates"].first["plan"] = plan.call("gone")
    raised = assert_raises(GateMile::Invalid) { GateMile::Book.compile(book) }
    assert_equal [["/rates/0/plan/parcels/boxes/0", :unknown_id], ["/store/parcels/boxes/0", :unknown_id]], raised.problems.map { |one|
      [one.pointer, one.code]
    }.sort
  end

  def test_a_box_that_goes_leaves_the_policies_that_name_it
    fresh(ServerSupport::WHOLE_DEMO)
    one, other = setup_now["boxes"].first(2).map { |box| box["id"] }
    plan = { "schedule" => { "kind" => "flat", "amount" => "1.00" }, "parcels" => { "kind" => "boxes", "boxes" => [one, other] } }
    api(:patch, "/api/rates/uk-tracked", { lock_version: find("rates", "uk-tracked")["lock_version"], plan: plan, cost: plan })
    api(:patch, "/api/store", { lock_version: setup_now["store"]["lock_version"], parcels: { "kind" => "boxes", "boxes" => [one] } })
    before = Server::BookDocument.read
    api(:delete, "/api/boxes/#{one}?lock_version=#{find("boxes", one)["lock_version"]}")
    assert_equal 204, status
    assert_equal [[other], [other], []],
                 [find("rates", "uk-tracked")["plan"]["parcels"]["boxes"], find("rates", "uk-tracked")["cost"]["parcels"]["boxes"],
                  setup_now["store"]["parcels"]["boxes"]]
    assert_equal(200, api(:post, "/api/quote", CART).then { status })
    api(:post, "/api/history/undo", { change: setup_now["history"]["undo"]["id"] })
    assert_equal before, Server::BookDocument.read
  end

  private

  def records
    Server.eager_load
    Server::Records::Base.descendants - [Server::Records::SleepingFinding, Server::Records::TreatmentTarget]
  end
end
