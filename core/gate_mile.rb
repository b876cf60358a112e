# frozen_string_literal: true

# The engine of Gate Mile: from what a merchant has set up (a {GateMile::Book}) and a {GateMile::Cart} to a
# {GateMile::Quote}. It knows nothing of databases, HTTP, clocks, files or the environment.
#
# The folders stand in the order in which a quote flows; docs/engine.md is the text that they implement.
module GateMile
end

require "set"

require_relative "gate_mile/value"
require_relative "gate_mile/problems"
require_relative "gate_mile/quantities/decimal"
require_relative "gate_mile/quantities/currency"
require_relative "gate_mile/quantities/money"
require_relative "gate_mile/quantities/measure"
require_relative "gate_mile/quantities/percentage"
require_relative "gate_mile/reader"
require_relative "gate_mile/geography/countries"
require_relative "gate_mile/geography/regions"
require_relative "gate_mile/geography/territories"
require_relative "gate_mile/geography/postcode"
require_relative "gate_mile/geography/clause"
require_relative "gate_mile/geography/clause_index"
require_relative "gate_mile/geography/address"
require_relative "gate_mile/geography/place"
require_relative "gate_mile/geography/area"
require_relative "gate_mile/geography/zone"
require_relative "gate_mile/geography/landing"
require_relative "gate_mile/geography/coverage"
require_relative "gate_mile/geography/zones"
require_relative "gate_mile/geography/samples"
require_relative "gate_mile/geography/survey"
require_relative "gate_mile/geography/ladder"
require_relative "gate_mile/geography/zone_findings"
require_relative "gate_mile/goods/product"
require_relative "gate_mile/goods/line"
require_relative "gate_mile/goods/cart"
require_relative "gate_mile/pricing/flat"
require_relative "gate_mile/pricing/plan"
require_relative "gate_mile/pricing/shipping_method"
require_relative "gate_mile/pricing/rate"
require_relative "gate_mile/quote/reckoning"
require_relative "gate_mile/quote/method_quote"
require_relative "gate_mile/quote/pipeline"
require_relative "gate_mile/quote/quote"
require_relative "gate_mile/book/store"
require_relative "gate_mile/book/consistency"
require_relative "gate_mile/book/book"
