# frozen_string_literal: true

require_relative "../support/fuzz"

# Two thousand requests that nobody should send, over all doors; perf/fuzz.rb sends more.
class FuzzTest < Minitest::Test
  def test_nothing_breaks_and_nothing_changes_that_was_refused
    Server::Log.to = said = StringIO.new
    fuzz = Fuzz.new(Random.new(16))
    fuzz.run(2000)
    assert_empty fuzz.wrong.first(5), said.string[0, 3000]
    assert_equal 2000, fuzz.asked
    assert_operator fuzz.answers.keys.size, :>, 6, "all kinds of answers"
    assert_operator fuzz.answers[200] + fuzz.answers[201] + fuzz.answers[204], :>, 200, "many are right all the same"
    GateMile::Book.compile(Server::BookDocument.read)
  ensure
    Server::Log.to = nil
  end
end
