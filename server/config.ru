# frozen_string_literal: true

require_relative "boot"

Server.eager_load
Server::Database.connect
Server::Database.migrate
Server::Contract.prepare

use Rack::Deflater
use Server::Doors::Host, permitted_hosts: Server::Settings.hosts, logging: false
use Server::Doors::Origin
run Server::App
