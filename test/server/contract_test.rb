# frozen_string_literal: true

require "support/server"

# What the contract says of a body that is not as it should be, and that it knows everything that the core can say.
class ContractTest < Minitest::Test
  UNIONS = { "Schedule" => %w[RateDraft /plan/schedule], "Condition" => %w[RuleDraft /when/all/0],
             "Action" => %w[RuleDraft /then/0], "Effect" => %w[OfferDraft /effect] }.freeze

  def test_every_kind_takes_its_own_fields_and_no_others
    count = 0
    each_kind do |union, kind, schema|
      good = example(schema, kind)
      assert_empty refusals(union, good), "#{union} #{kind}"
      (schema["required"] - ["fact"]).each do |field| # what has no fact is no condition but a tree
        assert_equal [[field, :missing]], refusals(union, good.except(field)), "#{union} #{kind} without #{field}"
        count += 1
      end
      fields_of_others(union, schema).each do |field, value|
        assert_equal [[field, :unknown_field]], refusals(union, good.merge(field => value)), "#{union} #{kind} with #{field}"
        count += 1
      end
    end
    assert_operator count, :>, 150
  end

  def test_a_kind_that_there_is_not_is_told_at_its_field_with_those_that_there_are
    UNIONS.each do |union, (body, pointer)|
      field = discriminator(union)["propertyName"]
      kinds = discriminator(union)["mapping"].keys
      problem = assert_raises(Server::Problem) { Server::Contract.check(body, whole(body, pointer, { field => "moon" })) }
      told = errors_of(problem)
      assert_equal ["#{pointer}/#{field}"], told.map { |one| one["pointer"] }, union
      kinds.each { |kind| assert_includes told.first["detail"], kind }
      assert_equal [["", :not_an_object]], refusals(union, "moon")
      assert_equal [["", :not_an_object]], refusals(union, [])
    end
  end

  # A part of a tree is a condition or a tree; what is wrong with it is told of what it is.
  def test_what_is_wrong_in_a_tree_of_conditions_is_told_once_at_its_place
    good = { "fact" => "tag", "of" => ["x"] }
    bad = { "fact" => "tag", "of" => "x" }
    { [bad] => ["/when/all/0/of"], [good, bad] => ["/when/all/1/of"], [{ "any" => [good, bad] }] => ["/when/all/0/any/1/of"],
      [{ "none" => [{ "all" => [bad] }] }, { "fact" => "time", "from" => "9:00" }] =>
        ["/when/all/0/none/0/all/0/of", "/when/all/1/until"],
      [{ "any" => good }] => ["/when/all/0/any"], [{ "some" => [good] }] => ["/when/all/0/some"] }.each do |parts, pointers|
      body = { "name" => "x", "when" => { "all" => parts }, "then" => [{ "kind" => "hide" }] }
      assert_equal pointers, told("RuleDraft", body).map(&:first), parts.inspect
    end
  end

  def test_a_field_that_there_is_not_is_told_and_none_that_there_is
    assert_equal [["/lock_version", :not_whole], ["/name", :not_text], ["/colour", :unknown_field]].sort,
                 told("ZonePatch", { "lock_version" => "0", "name" => 5, "active" => true, "colour" => "blue" }).sort
    assert_equal [["/nmae", :unknown_field]], told("RuleDraft", { "name" => "x", "nmae" => "y", "when" => { "all" => [] }, "then" => [{ "kind" => "hide" }] })
    assert_equal [["/name", :not_text]], told("ZonePatch", { "lock_version" => 0, "name" => 5 })
    assert_equal [["/lock_version", :missing]], told("ZonePatch", { "name" => "x" })
  end

  # What the core says by a code is in the contract, and the contract names nothing that the core never says.
  def test_the_contract_knows_every_code_of_the_core
    { "Finding" => /(?:code: |finding\()+:([a-z_]+)/, "ReckoningStep" => /note\(:\w+, :"([a-z_.]+)"/ }.each do |name, pattern|
      said = source(name == "Finding" ? "audit" : "**").scan(pattern).flatten.uniq
      assert_operator said.size, :>, 10, name
      assert_empty said - codes(name), name
    end
    text = source("**").gsub(/^\s*#.*/, "")
    %w[Finding ReckoningStep Cause Reason].each do |name|
      # Some codes are put together: "live.#{status}".
      unsaid = codes(name).reject do |code|
        text.match?(/(?<![\w.])#{Regexp.escape(code)}(?!\w)/) || (code.include?(".") && text.include?(":\"#{code.split(".").first}.\#{"))
      end
      assert_empty unsaid, name
    end
  end

  private

  def schemas = Server::Contract.source.dig("components", "schemas")
  def discriminator(union) = schemas.dig(union, "discriminator")
  def codes(name) = schemas.dig(name, "oneOf").map { |one| one.dig("properties", "code", "const") }
  def source(part) = Dir[File.join(Server::ROOT, "core", "gate_mile", part, "*.rb")].map { |file| File.read(file) }.join

  def each_kind
    UNIONS.each_key do |union|
      discriminator(union)["mapping"].each { |kind, ref| yield union, kind, schemas.fetch(ref.split("/").last) }
    end
  end

  # The smallest object of a kind, and values for the fields of the others.
  def example(schema, kind)
    schema["required"].to_h { |field| [field, %w[kind fact].include?(field) ? kind : value(field)] }
  end

  def value(field)
    { "of" => ["x"], "steps" => [], "cells" => [], "columns" => { "measure" => "value", "at" => ["0"] },
      "rows" => { "measure" => "weight", "at" => ["0 kg"] }, "measure" => "weight", "methods" => ["m"], "lines" => "any",
      "address" => "billing", "edges" => "from", "basis" => { "tax" => "with" } }.fetch(field, "1")
  end

  def fields_of_others(union, schema)
    all = discriminator(union)["mapping"].values.flat_map { |ref| schemas.fetch(ref.split("/").last)["properties"].keys }
    (all.uniq - schema["properties"].keys).to_h { |field| [field, value(field)] }
  end

  def refusals(union, part)
    body, pointer = UNIONS.fetch(union)
    told(body, whole(body, pointer, part)).map { |place, code| [place.delete_prefix(pointer).delete_prefix("/"), code] }
  end

  def told(name, body)
    Server::Contract.check(name, body)
    []
  rescue Server::Problem => e
    errors_of(e).map { |one| [one["pointer"], one["code"].to_sym] }
  end

  def errors_of(problem) = JSON.parse(problem.to_json)["errors"]

  def whole(name, pointer, part)
    case pointer
    when "/plan/schedule" then { "zone" => "z", "method" => "m", "plan" => { "schedule" => part } }
    when "/when/all/0" then { "name" => "x", "when" => { "all" => [part] }, "then" => [{ "kind" => "hide" }] }
    when "/then/0" then { "name" => "x", "when" => { "all" => [] }, "then" => [part] }
    else { "name" => name, "effect" => part }
    end
  end
end
