# frozen_string_literal: true

require "bundler/setup"
require_relative "storefront"

run Storefront.new(gate_mile: ENV.fetch("GATE_MILE_ADDRESS", "http://127.0.0.1:4180"))
