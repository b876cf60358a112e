# frozen_string_literal: true

require "puma"
require "puma/server"
require "stoplight"
require "uri"
require_relative "../../server/http/kept_alive"
require_relative "../../stand_ins/carriers/carriers"

# The stand-in carriers behind real HTTP, in this process.
module CarriersSupport
  # @return [Array(Carriers, String)] the application, whose modes and delays can be set, and its origin
  def self.boot
    @boot ||= begin
      app = Carriers.new
      server = Puma::Server.new(app, nil, { min_threads: 2, max_threads: 16, log_writer: Puma::LogWriter.null })
      port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
      server.run
      [app, "http://127.0.0.1:#{port}"]
    end
  end

  # Points the demo's carriers at the stand-ins, all of them well.
  # @return [Carriers]
  def carriers
    app, origin = CarriersSupport.boot
    app.modes.clear
    app.delays.clear
    defined?(Apart) ? Apart.application.carriers_at(origin) : CarriersSupport.point(origin)
    app
  end

  # The carriers of the shop are at this origin, and nothing is known of them yet.
  # @param origin [String]
  def self.point(origin)
    Server::History.unrecorded do
      Server::Records::Carrier.find_each do |carrier|
        carrier.update!(address: "#{origin}/#{carrier.id}", account: "TARROW", secret: "quay")
      end
    end
    Server::Carriers::Port.clear
    Server::Carriers::Calls.clear
    Stoplight.default_data_store = Stoplight::DataStore::Memory.new
  end
end
