# frozen_string_literal: true

require_relative "boot"

Server.eager_load
Server::Settings.check
Server::Contract.prepare
# As in config.ru: nobody should wait for the names of regions.
Thread.new { Server::Geography.all }
run Server::QuoteServer.app
