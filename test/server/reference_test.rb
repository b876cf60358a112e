# frozen_string_literal: true

require "support/server"
require "open3"

# What those who build a shop's side of the checkout door read: the contract's own part, whole and true, and a contract that others' tools can read.
class ReferenceTest < Minitest::Test
  include ServerSupport

  # Rules of the second validator (Redocly's openapi-core, the strict set of its recommended rules) that the product's own doors do not follow: the page
  # that asks them needs neither summaries nor keys.
  OWN = %w[info-license operation-4xx-response operation-summary no-unused-components security-defined].freeze

  def told
    fresh
    @told ||= api(:get, "/api/reference")
  end

  def test_it_is_the_part_of_the_contract_that_checkouts_ask
    assert_equal "3.1.0", told["openapi"]
    whole = Server::Contract.source
    assert_equal whole["paths"].select { |path, _| path.start_with?("/checkout/v1/") }, told["paths"]
    told["components"].except("securitySchemes").each { |kind, parts| parts.each { |name, part| assert_equal whole["components"][kind][name], part } }
    assert_equal File.read(File.join(Server::ROOT, "docs/api/checkout.md")), told["info"]["description"]
  end

  # Nothing that is named is missing, and nothing is there that nobody names.
  def test_it_holds_what_it_names_and_no_more
    named = JSON.generate(told).scan(%r{"#/components/([a-zA-Z]+)/([^"/]+)"}).to_set
    held = told["components"].except("securitySchemes").flat_map { |kind, parts| parts.keys.map { |name| [kind, name] } }.to_set
    assert_equal named, held
    assert_operator held.size, :>, 20
    assert_operator held.size, :<, Server::Contract.source["components"]["schemas"].size / 2
  end

  # Its examples are what the contract lets through, and what the door answers.
  def test_its_examples_are_right
    count = 0
    told["paths"].each do |path, verbs|
      verbs.slice("post", "patch").each_value do |verb|
        body = verb.dig("requestBody", "content", "application/json")
        schema = body["schema"]["$ref"].split("/").last
        assert_nil Server::Contract.check(schema, body.fetch("example")), path
        count += 1
      end
    end
    assert_equal 6, count
  end

  # Source: OpenAPI 3.1.0; a second reader of it, which also holds it against rules of its own.
  def test_others_can_read_it
    assert_empty problems(Server::Contract::FILE, OWN)
    Dir.mktmpdir do |folder|
      file = File.join(folder, "door.json")
      File.write(file, JSON.generate(told))
      assert_empty problems(file, %w[info-license])
      File.write(file, JSON.generate(told.merge("paths" => told["paths"].merge("/nowhere" => { "get" => {} }))))
      refute_empty problems(file, %w[info-license]), "a wrong one is found"
    end
  end

  private

  def problems(file, off)
    out, status = Open3.capture2e("node", "--input-type=module", "-e", <<~JS, file, *off, chdir: File.join(Server::ROOT, "web"))
      import { lint, createConfig } from '@redocly/openapi-core'
      const [file, ...off] = process.argv.slice(1)
      const rules = Object.fromEntries(off.map((rule) => [rule, 'off']))
      const found = await lint({ ref: file, config: await createConfig({ extends: ['recommended-strict'], rules }) })
      console.log(JSON.stringify(found.map(({ ruleId, message, location }) => [ruleId, message, location[0]?.pointer])))
    JS
    assert_predicate status, :success?, out
    JSON.parse(out.lines.last)
  end
end
