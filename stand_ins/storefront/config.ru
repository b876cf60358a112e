# frozen_string_literal: true

require "bundler/setup"
require "json"
require_relative "storefront"

# Its keys are made where the demo is loaded; without them delivery is away.
database = ENV.fetch("GATE_MILE_DATABASE", File.expand_path("../../var/gate_mile.sqlite3", __dir__))
file = File.join(File.dirname(database), "demo-shop.json")
keys = File.exist?(file) ? JSON.parse(File.read(file)) : {}
gate_mile = ENV.fetch("GATE_MILE_ADDRESS", "http://127.0.0.1:4180")
run Storefront.open(gate_mile: gate_mile, server: keys["server"])
