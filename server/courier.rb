# frozen_string_literal: true

# Brings releases from the workbench to the folder of the quote processes, and takes along orders that wait.
require_relative "boot"

workbench = Server::QuoteServer.workbench or abort "GATE_MILE_WORKBENCH and GATE_MILE_KEY say where the workbench is"
folder = Server::ReleaseFolder.new(Server::Settings.quotes)
queues = %w[orders notices].map { |name| Server::OrderQueue.new(File.join(Server::Settings.quotes, name)) }
Server::Courier.new(workbench, folder, *queues).run
