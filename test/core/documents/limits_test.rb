# frozen_string_literal: true

require_relative "../../support/core"

# Lengths of texts and lists, as the published schema names them: just so much is read, and one more is refused at its
# place. Tried at every place of the demo, one for each limit of the schema.
class LimitsTest < Minitest::Test
  include CoreSupport

  SCHEMA = JSON.parse(File.read(File.join(ROOT, "docs/formats/book.schema.json"))).freeze
  DEMO = JSON.parse(File.read(File.join(ROOT, "demo/book.json"))).freeze
  LONGEST_LIST = 600

  def test_texts_are_as_long_as_the_schema_says
    tried = places("maxLength") { |value| value.is_a?(String) }
    assert_operator tried.size, :>, 12
    tried.each do |path, most|
      assert_equal [false, true], [most, most + 1].map { |length| told?(path, "x" * length, :too_long) }, path.join("/")
    end
  end

  def test_lists_are_as_long_as_the_schema_says
    tried = places("maxItems") { |value| value.is_a?(Array) && value.any? }.select { |_, most| most <= LONGEST_LIST }
    # A grid has as many cells as its rows and columns say.
    tried.reject! { |path, _| path.include?("cells") }
    assert_operator tried.size, :>, 3
    tried.each do |path, most|
      one = DEMO.dig(*path).first
      assert_equal [false, true], [most, most + 1].map { |count| told?(path, [one] * count, :too_many) }, path.join("/")
    end
  end

  private

  # @return [Array<Array(Array, Integer)>] where each limit of this name stands in the demo first
  def places(limit, &)
    seen = {}.compare_by_identity
    walk(DEMO, [SCHEMA], [], &).filter_map do |path, schemas|
      found = schemas.select { |schema| schema.key?(limit) }
      next if found.empty? || found.all? { |schema| seen[schema] }

      found.each { |schema| seen[schema] = true }
      [path, found.map { |schema| schema[limit] }.max]
    end
  end

  def walk(value, schemas, path, &wanted)
    schemas = schemas.flat_map { |schema| all(schema) }.select { |schema| fits?(schema, value) }
    own = wanted.call(value) && path.any? ? [[path, schemas]] : []
    own + parts(value).flat_map { |key, part| walk(part, schemas.filter_map { |schema| below(schema, key) }, [*path, key], &wanted) }
  end

  def parts(value)
    case value
    when Hash then value.to_a
    when Array then value.each_with_index.map { |item, at| [at, item] }
    else []
    end
  end

  # A schema and all that it refers to or is put together from.
  def all(schema)
    more = schema.values_at("allOf", "anyOf", "oneOf").compact.flatten + schema.values_at("then", "else").compact
    more << SCHEMA["$defs"].fetch(schema["$ref"].split("/").last) if schema["$ref"]
    [schema, *more.flat_map { |one| all(one) }]
  end

  # Of several kinds of a thing, those that it is not are left out.
  def fits?(schema, value)
    !value.is_a?(Hash) || schema.fetch("properties", {}).all? { |key, one| !one.is_a?(Hash) || !one.key?("const") || one["const"] == value[key] }
  end

  def below(schema, key)
    found = key.is_a?(Integer) ? schema["items"] : schema.dig("properties", key)
    found if found.is_a?(Hash)
  end

  # Whether this value is refused there for that reason.
  def told?(path, value, code)
    document = changed(DEMO, path, value)
    reader = GateMile::Reader.open(document.merge(document.slice("products", "proofs").to_h { |key, list| [key, path.first == key ? list : []] }))
    GateMile::BookForms.read(reader)
    reader.problems.any? { |problem| problem.code == code && problem.pointer == "/#{path.join("/")}" }
  end

  def changed(document, path, value)
    return value if path.empty?

    key, *rest = path
    document.dup.tap { |copy| copy[key] = changed(copy[key], rest, value) }
  end
end
