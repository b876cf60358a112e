# frozen_string_literal: true

require_relative "../support/server"
require "prop_check"

# The notations of a table of proofs: whatever stands in a proof is written into its cells and read back as it was.
class ProofCellsTest < Minitest::Test
  G = PropCheck::Generators
  CODES = { "m1" => "TRACKED", "m2" => "NEXT DAY", "m3" => "A=B" }.freeze
  TEXT = G.one_of(G.constant("We ring | you"), G.constant('Say "yes"'), G.constant("a \\ b"), G.constant("(cheapest)"), G.constant("50 % = half"))

  def cells = @cells ||= Server::ProofCells.new(CODES)

  def methods
    price = G.one_of(G.tuple(G.one_of(*%w[exact at_most at_least].map { |one| G.constant(one) }), G.choose(0..99_999).map do |minor|
      format("%.2f", minor/100r)
    end),
                     G.tuple(G.one_of(*%w[free offered not_offered].map { |one| G.constant(one) }), G.constant(nil)))
    marks = G.one_of(*[nil, ["cheapest"], ["fastest"], %w[cheapest fastest]].map { |one| G.constant(one) })
    one = G.tuple(G.one_of(*%w[m1 m2 m3 gone-now].map { |id| G.constant(id) }), price, marks, G.array(TEXT, max: 2))
    one.map do |id, (is, amount), marks, texts|
      { "method" => id, "is" => is, "amount" => amount, "marks" => marks, "messages" => (texts if texts.any?) }.compact
    end
  end

  def test_methods_are_read_back_as_they_were
    PropCheck.forall(list: G.array(methods, max: 4)) do |list:|
      assert_equal list, cells.read_methods(cells.methods(list))
    end
  end

  def test_goods_are_read_back_as_they_were
    plain = G.tuple(G.one_of(*["CHT-1", "a b", "7 * x", "ÄÖ"].map do |one|
      G.constant(one)
    end), G.choose(1..99)).map { |sku, count| { "sku" => sku, "quantity" => count } }
    own = G.tuple(TEXT, G.choose(1..9)).map { |name, count| { "name" => name, "quantity" => count, "weight" => "1 kg" } }
    PropCheck.forall(lines: G.array(G.one_of(plain, own), max: 4)) do |lines:|
      assert_equal lines, cells.read_goods(cells.goods(lines))
    end
  end

  def test_moments
    [{}, { "at" => "2026-11-27T18:00" }, { "weekdays" => [1, 5], "time" => "12:00" }].each do |moment|
      assert_equal moment, cells.read_moment(cells.moment(moment).to_s)
    end
  end

  # What people write beside what is written out.
  def test_what_else_can_be_read
    assert_equal [{ "method" => "m1", "is" => "exact", "amount" => "4.50" }], cells.read_methods(" tracked=4.50 |")
    assert_equal [{ "method" => "m1", "is" => "not_offered" }], cells.read_methods("Tracked  not   offered")
    assert_equal [{ "sku" => "X", "quantity" => 3 }, { "sku" => "Y", "quantity" => 1 }], cells.read_goods("3x X | 1 × Y")
    assert_equal [], cells.read_methods("")
  end

  def test_what_cannot_be_read_is_told
    { read_methods: ["TRACKED about 5", "TRACKED = four", "= 4.50", "TRACKED"], read_goods: ["charts", "x CHT", "{broken"] }.each do |reads, texts|
      texts.each { |text| assert_raises(Server::ProofCells::Unreadable, text) { cells.public_send(reads, text) } }
    end
    assert_raises(Server::ProofCells::Unreadable) { cells.json("cart", "{") }
  end
end
