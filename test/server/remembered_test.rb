# frozen_string_literal: true

require_relative "../support/server"

# What is read once and known until it changes, whoever was reading meanwhile.
class RememberedTest < Minitest::Test
  def test_read_once
    read = 0
    known = Server::Remembered.new { read += 1 }
    assert_equal [1, 1], Array.new(2) { known.value }
    known.forget
    assert_equal [2, 2], Array.new(2) { known.value }
  end

  # It changes while somebody reads: the old value answers that question, and no later one.
  def test_it_changes_while_it_is_read
    stands = "old"
    begun = Queue.new
    go = Queue.new
    known = Server::Remembered.new do
      found = stands
      begun << true
      go.pop
      found
    end
    early = Thread.new { known.value }
    begun.pop
    stands = "new"
    known.forget
    go << true
    assert_equal "old", early.value
    go << true
    assert_equal "new", known.value
    assert_equal "new", known.value, "without being read again"
  end

  # Nothing is known too, and what can't be read is read by the next.
  def test_nothing_and_faults
    read = 0
    nothing = Server::Remembered.new { (read += 1) && nil }
    2.times { assert_nil nothing.value }
    assert_equal 1, read
    failing = Server::Remembered.new { (read += 1) == 2 ? raise("no") : read }
    assert_raises(RuntimeError) { failing.value }
    assert_equal 3, failing.value
  end
end
