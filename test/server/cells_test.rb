# frozen_string_literal: true

require_relative "../support/server"
require "csv"

# No cell of an exported table is run by a spreadsheet, and each is read back as it was.
# Source: OWASP, CSV Injection: cells that begin with = + - @, a tab or a carriage return.
class CellsTest < Minitest::Test
  include ServerSupport

  EXPORTS = %w[/api/products.csv /api/treatments.csv /api/zones.csv /api/boxes.csv /api/proofs.csv /api/rates.csv].freeze
  NASTY = ["=1+1", "+SUM(A1)", "-2+3", "@x", "\tx", "\rx", "=cmd|' /C calc'!A0", "-"].freeze

  def cells(csv) = CSV.parse(csv).flatten.compact
  # Figures below zero are no formulas.
  def run?(cell) = cell.match?(/\A[=+\-@\t\r]/) && !cell.match?(/\A[-+]\d[\d.,]*\s*[\p{L}%]*\z/)

  def test_every_text_comes_back
    random = Random.new(11)
    signs = ["=", "+", "-", "@", "\t", "\r", "'", "a", "1", " ", ".", "%", "é", "\"", ","]
    texts = NASTY + ["'=x", "''=x", "'x", "-4.50", "-100 %", "+10", "", "'-1", "''", "-5 kg", "- 5"] + Array.new(3000) do
      Array.new(random.rand(6)) do
        signs.sample(random: random)
      end.join
    end
    written = CSV.generate(**Server::Cells::OUT) { |csv| texts.each { |text| csv << [text, nil, 7] } }
    read = CSV.parse(written, **Server::Cells::IN)
    assert_equal texts.map { |text| [text, nil, "7"] }, read
    assert_empty(cells(written).select { |cell| run?(cell) })
    assert_equal "-4.50", Server::Cells.safe("-4.50")
    assert_equal "-100 %", Server::Cells.safe("-100 %")
  end

  def find_all(list) = setup_now[list].map { |one| one["name"] }.sort

  # A shop in which everything has such a name, through every table there is.
  def test_every_export
    fresh(WHOLE_DEMO)
    names = NASTY.grep_v(/[\t\r]/).cycle
    ActiveRecord::Base.transaction do
      [Server::Records::Zone, Server::Records::Treatment, Server::Records::Box, Server::Records::Proof,
       Server::Records::Product.where(parent_id: nil)].each do |all|
        all.find_each { |one| one.update_columns(name: "#{names.next}#{one.id}") }
      end
    end
    Server::App.settings.shelf.clear
    EXPORTS.each do |path|
      csv = api(:get, path)
      assert_equal 200, status, path
      assert_empty cells(csv).select { |cell| run?(cell) }, path
      assert_includes csv, "'=1+1", path unless path == "/api/rates.csv"
    end
    again = api(:post, "/api/zones/import", { csv: api(:get, "/api/zones.csv"), store: false })
    assert_equal find_all("zones"), again["unchanged"].sort, "the same zones come back"
  end
end
