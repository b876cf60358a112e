# frozen_string_literal: true

# A backup of a shop of 20,000 products while somebody edits it in the same process without a pause: how long the
# slowest edit takes, with and without a backup beside it.
#   bundle exec ruby perf/backup.rb

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "tmpdir"
require_relative "sizes"

FOLDER = Dir.mktmpdir
ENV["GATE_MILE_DATABASE"] = File.join(FOLDER, "perf.sqlite3")
require_relative "../server/boot"

PRODUCTS = sized(20_000, 100)
ROUNDS = sized(5, 1)

def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

# @yield what is done beside the edits
# @return [Array<Float>] milliseconds of each edit
def edits_beside
  rate = Server::Records::Rate.first
  over = false
  editing = Thread.new do
    times = []
    until over
      started = now
      Server::Database.write { rate.update_columns(name: "Edit #{times.size}") }
      times << ((now - started) * 1000)
      sleep 0.005
    end
    ActiveRecord::Base.connection_handler.clear_active_connections!
    times
  end
  yield
  over = true
  editing.value
end

begin
  Server::Database.connect
  Server::Database.migrate
  Server::Demo.load
  rows = Array.new(PRODUCTS) do |at|
    { id: format("p%05d", at), sku: format("P-%05d", at), name: "A thing of brass, number #{at}", price_minor: at }
  end
  rows.each_slice(1000) { |slice| Server::Records::Product.insert_all(slice) }
  alone = edits_beside { sleep sized(2, 0.1) }
  took = []
  beside = Array.new(ROUNDS) do |at|
    edits_beside do
      started = now
      Server::Backup.write(File.join(FOLDER, "backup-#{at}"))
      took << (now - started)
    end
  end.flatten
  size = File.size(File.join(FOLDER, "backup-0")) / 1e6
  puts format("backup of %<size>.1f MB: %<took>.2f s", size: size, took: took.max)
  puts format("slowest edit: %<alone>.0f ms alone, %<beside>.0f ms beside a backup (wanted: 200)",
              alone: alone.max, beside: beside.max)
ensure
  FileUtils.rm_rf(FOLDER)
end
