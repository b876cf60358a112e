# frozen_string_literal: true

require_relative "boot"

Server.eager_load
Server::Settings.check
Server::Contract.prepare
run Server::QuoteServer.app
