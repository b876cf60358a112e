# frozen_string_literal: true

require "date"
require "digest"
require "json"
require "set"
require "tzinfo"
require "zeitwerk"

# The engine of Gate Mile: from what a merchant has set up (a {GateMile::Book}) and a {GateMile::Cart} to a
# {GateMile::Quote}. It knows nothing of databases, HTTP, clocks, files or the environment.
#
# Its folders are rooms: names in a room refer to names of the same room and of rooms before it, in the order of
# {ROOMS}. docs/architecture.md tells what is in each.
module GateMile
  ROOMS = %w[quantities reckoning reading geography goods parcels pricing live promises facts offers rules setup
             documents quote proofs book audit walk releases drawing].freeze

  LOADER = Zeitwerk::Loader.new.tap do |loader|
    loader.tag = "gate_mile"
    loader.push_dir("#{__dir__}/gate_mile", namespace: GateMile)
    ROOMS.each { |room| loader.collapse("#{__dir__}/gate_mile/#{room}") }
    loader.setup
  end
  private_constant :LOADER

  # Loads every file now, as a server that answers in threads should.
  # @return [void]
  def self.load_all = LOADER.eager_load
end
