# frozen_string_literal: true

require_relative "boot"

Server.eager_load
Server::Database.connect
Server::Database.migrate
Server::Contract.prepare
# The names of five thousand regions take a moment to read: nobody should wait for them.
Thread.new { [Server::Choices.all, Server::Geography.all] }

use Rack::Deflater, sync: false
use Server::Doors::Host, permitted_hosts: Server::Settings.hosts, logging: false
use Server::Doors::Legible
use Server::Doors::Pace
use Server::Doors::Origin
run Server::App
