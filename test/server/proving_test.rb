# frozen_string_literal: true

require_relative "../support/server"
require "open3"

# Proofs run from the command line, without server or database: for a shop's own continuous integration.
class ProvingTest < Minitest::Test
  include ServerSupport

  QUOTE = File.join(Server::ROOT, "bin/quote")

  def prove(book, *rest)
    Dir.mktmpdir do |folder|
      path = File.join(folder, "book.json")
      File.write(path, book.is_a?(String) ? book : JSON.generate(book))
      own = { "RUBYOPT" => nil, "BUNDLE_GEMFILE" => nil, "RUBYLIB" => nil, "BUNDLE_BIN_PATH" => nil }
      said, status = Open3.capture2e(own, QUOTE, "--proofs", path, *rest)
      [status.exitstatus, said]
    end
  end

  def test_all_hold
    code, said = prove(WHOLE_DEMO, "2026-11-27T12:00:00Z")
    assert_equal [0, "#{WHOLE_DEMO["proofs"].size} of #{WHOLE_DEMO["proofs"].size} proofs hold\n"], [code, said]
  end

  def test_one_that_does_not_hold_ends_with_one
    dearer = WHOLE_DEMO["rates"].map do |rate|
      rate["id"] == "hi-tracked" ? rate.merge("plan" => { "schedule" => { "kind" => "flat", "amount" => "13.00" } }) : rate
    end
    code, said = prove(WHOLE_DEMO.merge("rates" => dearer), "2026-11-27T12:00:00Z")
    assert_equal 1, code
    assert_match(/\AIslands pay more: changed$/, said)
    assert_includes said, '"wanted":{"kind":"exact","amount":"11.50"},"gets":"13.00"'
  end

  # What is gone is unclear, which is no pass either.
  def test_what_is_gone_ends_with_one
    code, said = prove(WHOLE_DEMO.merge("products" => []))
    assert_equal 1, code
    assert_match(/unclear/, said)
    assert_match(/no_product/, said)
  end

  def test_what_cannot_be_read_is_told
    assert_match(/this is not JSON/, prove("{").last)
    bad = WHOLE_DEMO.merge("proofs" => [WHOLE_DEMO["proofs"].first.merge("expects" => { "zone" => 7 })])
    code, said = prove(bad)
    assert_equal [1, true], [code, said.include?("/proofs/0/expects/zone: not_text")]
    assert_match(/write the time as/, prove(WHOLE_DEMO, "soon").last)
    assert_match(/usage/, Open3.capture2e(QUOTE, "--proofs").first)
  end
end
