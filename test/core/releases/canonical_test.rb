# frozen_string_literal: true

require_relative "../../support/recipes"
require "json/canonicalization"
require "open3"

# Equal documents are equal to the byte, whatever order their names came in and whichever machine writes them.
class CanonicalTest < Minitest::Test
  include RecipesSupport

  ORDERED = "{\"\\r\":\"Carriage Return\",\"1\":\"One\",\"\u0080\":\"Control\",\"ö\":\"Latin Small Letter O With Diaeresis\"," \
            "\"€\":\"Euro Sign\",\"😀\":\"Emoji: Grinning Face\",\"\ufb33\":\"Hebrew Letter Dalet With Dagesh\"}"

  def canonical(document) = GateMile::Canonical.json(document)

  # RFC 8785, section 3.2.3: names in the order of their UTF-16 code units.
  def test_names_stand_in_the_order_of_the_standard
    given = { "€" => "Euro Sign", "\r" => "Carriage Return", "\ufb33" => "Hebrew Letter Dalet With Dagesh", "1" => "One",
              "😀" => "Emoji: Grinning Face", "\u0080" => "Control", "ö" => "Latin Small Letter O With Diaeresis" }
    assert_equal ORDERED, canonical(given)
    assert_equal ORDERED, canonical(given.to_a.reverse.to_h)
  end

  # RFC 8785, section 3.2.2: the text of its example, with all that must and must not be escaped.
  def test_texts_are_escaped_as_in_the_standard
    text = "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"/"
    assert_equal "{\"literals\":[null,true,false],\"string\":\"€$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"}",
                 canonical("string" => text, "literals" => [nil, true, false])
  end

  def test_what_no_document_holds_is_refused
    [1.5, 2r, :symbol, Object.new].each { |value| assert_raises(ArgumentError) { canonical([value]) } }
  end

  # A general-purpose library of the same standard says the same of whole books.
  def test_a_second_opinion
    8.times do |seed|
      document = GateMile::Book.compile(recipe(Random.new(seed))).dump
      assert_equal document.to_json_c14n, canonical(document), "book #{seed}"
    end
  end

  def test_a_digest_does_not_depend_on_the_order_of_names
    8.times do |seed|
      random = Random.new(seed)
      document = recipe(random)
      digest = GateMile::Canonical.digest(GateMile::Book.compile(document).dump)
      3.times { assert_equal digest, GateMile::Canonical.digest(GateMile::Book.compile(shuffled(document, random)).dump) }
      other = document.merge("store" => document["store"].merge("name" => "Other"))
      refute_equal digest, GateMile::Canonical.digest(GateMile::Book.compile(other).dump)
    end
  end

  # In processes of their own: other locales and encodings, another seed of the hashes, with and without compiling.
  def test_a_digest_does_not_depend_on_the_machine
    document = GateMile::Book.compile(recipe(Random.new(3)).merge("store" => STORE.merge("name" => "Café Ærø"))).dump
    script = "print GateMile::Canonical.digest(GateMile::Book.compile(JSON.parse(STDIN.read.force_encoding('UTF-8'))).dump)"
    digests = [{ "LANG" => "C", "LC_ALL" => "C", "TZ" => "UTC" }, { "LC_ALL" => "C.UTF-8", "TZ" => "Asia/Tokyo" }].map do |env|
      out, = Open3.capture2(env, RbConfig.ruby, "-Icore", "-rgate_mile", "-e", script, stdin_data: JSON.generate(document), chdir: ROOT)
      out
    end
    assert_equal [GateMile::Canonical.digest(document)], digests.uniq
  end

  private

  def shuffled(value, random)
    case value
    when Hash then value.to_a.shuffle(random: random).to_h { |name, item| [name, shuffled(item, random)] }
    when Array then value.map { |item| shuffled(item, random) }
    else value
    end
  end
end
