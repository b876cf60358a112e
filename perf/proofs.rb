# frozen_string_literal: true

# Proofs, walks and the audit. A thousand proofs after an edit that touches all of them, after one that touches one zone
# and beside what the proofs of that zone alone take; the edges of the demo's Board; the audit of 20,000 products after
# an edit, beside the first one.
#   bundle exec ruby perf/proofs.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "tmpdir"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"
Server::Database.connect
Server::Database.migrate
Server::Demo.load
NOW = Time.now
COUNT = sized(1000, 10)
GOODS = sized(20_000, 80)

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
def median(list) = list.sort[list.size / 2]

# @return [Float] the median of a few, in seconds
def seconds(times = 5)
  times = 1 if TINY
  median(Array.new(times) do
    started = now
    yield
    now - started
  end)
end

def shop = Server::BookDocument.read

# Proofs of the demo's goods in every zone, as often in one as in another.
def kept(book, count)
  samples = GateMile::ZoneSamples.new(book.zones)
  goods = GateMile::Alone.goods(book)
  zones = book.zones.to_a
  Array.new(count) do |at|
    lines = [[goods[at % goods.size], 1 + (at % 4)], [goods[(at * 7) % goods.size], 1]]
    cart = { "lines" => lines.map { |article, count| { "sku" => article.sku, "quantity" => count } },
             "destination" => GateMile::Documents.write(samples.of(zones[at % zones.size])) }
    cart = GateMile::Cart.parse(cart, book.currency)
    quote = book.quote(cart, at: NOW)
    GateMile::Proof.new(id: "p#{at}", name: "Proof #{at}", tags: [], cart: cart, moment: GateMile::ProofMoment.new,
                        expected: GateMile::Expected.of(quote), recorded: GateMile::Recorded::NONE)
  end
end

# What a suite does after an edit.
def again(old, new, proofs, outcomes)
  edited = GateMile::Edited.new(old, new)
  proving = GateMile::Proving.new(new, now: NOW)
  proofs.zip(outcomes).count { |proof, outcome| edited.touches?(outcome.looked) && proving.run(proof) }
end

# As the server does after an edit: goods that were not edited stay as they are.
def changed(document, list, id, catalogue: nil, **fields)
  edited = document.merge(list => document[list].map do |one|
    one["id"] == id ? one.merge(fields.transform_keys(&:to_s)) : one
  end)
  GateMile::Book.compile(edited, catalogue: catalogue)
end

document = shop
book = GateMile::Book.compile(document)
proofs = kept(book, COUNT)
run = ->(some, in_book) { GateMile::Proving.new(in_book, now: NOW).then { |proving| some.map { |proof| proving.run(proof) } } }
sized(3, 1).times { run.call(proofs, book) }
outcomes = run.call(proofs, book)
plain = seconds { proofs.each { |proof| book.quote(proof.cart, at: NOW).method_quotes } }
all = changed(document, "rules", document["rules"].first["id"], name: "Renamed")
every = seconds { again(book, all, proofs, outcomes) }
flat = { "schedule" => { "kind" => "flat", "amount" => "12.00" } }
one = changed(document, "rates", "ie-tracked", plan: flat)
touched = again(book, one, proofs, outcomes)
of_zone = proofs.zip(outcomes).select { |_, outcome| outcome.looked.zones.include?("ireland") }.map(&:first)
zone = seconds { again(book, one, proofs, outcomes) }
alone = seconds { run.call(of_zone, one) }
puts "#{COUNT} proofs after an edit that touches all: #{every.round(2)} s (wanted 0.6), " \
     "#{(every / plain).round(2)} of their quotes"
puts "after an edit of one zone: #{touched} asked, #{zone.round(3)} s, #{(zone / alone).round(2)} " \
     "of what the #{of_zone.size} proofs of that zone take (wanted 1.3)"

GateMile::Walk.of_board(book, now: NOW).proposals
carts = nil
walk = seconds(3) { carts = GateMile::Walk.of_board(book, now: NOW).proposals }
puts "the edges of the Board: #{carts.size} carts in #{walk.round(2)} s (wanted 1), " \
     "#{(walk / every).round(2)} of #{COUNT} proofs"

many = Array.new(GOODS) do |at|
  like = document["products"][at % document["products"].size]
  like.except("variants").merge("sku" => "P-#{at}", "name" => "#{like["name"]} #{at}")
end
large = document.merge("products" => many)
big = GateMile::Book.compile(large)
quoted = nil
first = seconds(3) { quoted = GateMile::QuotedFindings.new(big) }
same = { catalogue: big.catalogue }
dearer = { "measure" => "value", "from" => "80.00" }
edits = { "one rate" => changed(large, "rates", "ie-tracked", plan: flat, **same),
          "an offer" => changed(large, "offers", "free-75", threshold: dearer, **same),
          "a rule" => changed(large, "rules", document["rules"].first["id"], active: false, **same) }
whole = seconds(1) { GateMile::Audit.findings(big, at: NOW, quoted: quoted) }
puts "the audit of #{GOODS} products: quoting #{first.round(2)} s the first time (#{quoted.asked} " \
     "quotes), the rest #{whole.round(2)} s"
edits.each do |name, edited|
  after = nil
  took = seconds(3) { after = GateMile::QuotedFindings.new(edited, last: quoted) }
  all = seconds(1) { GateMile::Audit.findings(edited, at: NOW, quoted: after) }
  puts "after an edit of #{name}: #{(took + all).round(2)} s (wanted 0.5), #{after.asked} " \
       "quotes, #{(took / first).round(2)} of the first time"
end
