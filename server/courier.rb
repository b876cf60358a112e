# frozen_string_literal: true

# Brings releases from the workbench to the folder of the quote processes, and takes along orders that wait. It ends
# with whatever has started it: its standard input is open for as long as that lives.
require_relative "boot"

workbench = Server::QuoteServer.workbench or abort "GATE_MILE_WORKBENCH and GATE_MILE_KEY say where the workbench is"
folder = Server::ReleaseFolder.new(Server::Settings.quotes)
queues = %w[orders notices].map { |name| Server::OrderQueue.new(File.join(Server::Settings.quotes, name)) }
Server::Lifeline.hold
Server::Courier.new(workbench, folder, *queues).run
