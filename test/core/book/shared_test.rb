# frozen_string_literal: true

require_relative "../../support/core"
require_relative "../../support/recording"

# Threads share a book and all that it remembers of what was asked of it.
#
# A hash may grow while another thread looks something up in it. Where its keys are arrays or objects of ours, Ruby code
# runs in the middle of a lookup, other threads come in, and Ruby 3.1 goes on with memory that is no longer the hash's:
# the process breaks down (the case below, with plain hashes, does it in a second or two). Lookups by strings, symbols,
# numbers and identity are one step.
class SharedTest < Minitest::Test
  include CoreSupport

  ONE_STEP = [String, Symbol, Integer, NilClass, TrueClass, FalseClass].freeze

  # All that can be reached from here, each thing once, with the way to it.
  def reached(from, name)
    seen = {}.compare_by_identity
    open = [[from, name]]
    while (thing, way = open.pop)
      next if seen.key?(thing) || ONE_STEP.include?(thing.class) || thing.is_a?(Module) || thing.is_a?(Proc)

      seen[thing] = way
      open.concat(parts(thing).map { |part, step| [part, "#{way}#{step}"] })
    end
    seen
  end

  def parts(thing)
    inside = case thing
             when Array then thing.map { |part| [part, "[]"] }
             when Hash then thing.flat_map { |key, value| [[key, ".key"], [value, "[#{key.class}]"]] }
             when Struct then thing.members.map { |member| [thing[member], ".#{member}"] }
             else []
             end
    inside + thing.instance_variables.map { |variable| [thing.instance_variable_get(variable), ".#{variable}"] }
  end

  # Hashes that can still grow, and take more than a step to look something up.
  def doubtful(thing, name)
    reached(thing, name).select do |found, _|
      found.is_a?(Hash) && !found.frozen? && !found.compare_by_identity? && found.keys.any? { |key| !ONE_STEP.include?(key.class) }
    end.values
  end

  def test_what_a_book_remembers_is_looked_up_in_one_step
    recording = Recording.new(File.join(RecordedCases::ROOT, "core"))
    random = Random.new(8)
    book = nil
    62.times do |number|
      book, *asked = recording.demo(random, number)
      recording.send(:answer, book, *asked)
    end
    assert_empty doubtful(book, "book")
    treated = GateMile::Book.compile(threads_document)
    carts.each { |one| treated.quote(one, at: AT) }
    assert_empty doubtful(treated, "book")
    assert_equal ["known.@one"], doubtful(Class.new { def initialize = @one = { %w[a b] => 1 } }.new, "known"), "it would be seen"
  end

  # As many threads as a server has, each with a book that nobody has asked before, and more groups and kinds of goods
  # than a small hash holds: all of them get what one alone gets.
  def test_threads_that_ask_a_new_book_at_once
    said = threads_document
    alone = GateMile::Book.compile(said).then { |book| carts.map { |one| book.quote(one, at: AT).dump } }
    8.times do
      book = GateMile::Book.compile(said)
      found = Array.new(8) { |at| Thread.new { carts.each_index.to_a.rotate(at * 3).to_h { |one| [one, book.quote(carts[one], at: AT).dump] } } }
      found.each { |thread| assert_equal alone, thread.value.values_at(*carts.each_index) }
    end
  end

  # The same of what is looked up most: here a hash of arrays ended the process within seconds.
  def test_threads_that_look_up_offers_and_treatments_at_once
    book = GateMile::Book.compile(threads_document)
    places = Array.new(12) { |at| ["zone-#{at}", at.odd? ? nil : "group-#{at}"] }
    articles = Array.new(12) { |at| book.catalogue["P#{at}"] }
    Rounds.of(2000).times do
      index = GateMile::OfferIndex.new(book.offers)
      treatments = GateMile::Treatments.new(book.treatments.to_a, book.classes)
      threads = Array.new(4) do
        Thread.new { places.shuffle.map { |zone, group| index.for(zone, group, []) } + articles.shuffle.map { |one| treatments.on(one, nil).size } }
      end
      assert_equal([[]] * 4, threads.map { |thread| thread.value.grep_v(1).flatten })
    end
  end

  def carts
    @carts ||= Array.new(24) do |at|
      cart({ "lines" => [line("P#{at % 12}", 1 + (at % 3))], "destination" => to("GB"), "group" => ["Group #{at / 2}", nil][at % 2] }.compact)
    end
  end

  def threads_document
    treated = Array.new(12) do |at|
      { "id" => "t#{at}", "name" => "Surcharge #{at}", "price" => { "kind" => "apart", "charge" => { "kind" => "unit", "amount" => "1.#{10 + at}" } } }
    end
    products = Array.new(12) { |at| { "sku" => "P#{at}", "name" => "P#{at}", "price" => "10.00", "weight" => "1 kg", "treatments" => ["t#{at}"] } }
    groups = Array.new(12) { |at| { "id" => "g#{at}", "name" => "Group #{at}" } }
    offers = groups.map do |group|
      { "id" => "o-#{group["id"]}", "name" => "For #{group["name"]}", "groups" => { "only" => [group["id"]] },
        "effect" => { "kind" => "percent", "percent" => "10" } }
    end
    document(products: products, treatments: treated, groups: groups, offers: offers)
  end
end
