# frozen_string_literal: true

require_relative "boot"

Server.eager_load
Server::Settings.check
Server::Start.database
Server::Secrets.renew
Server::Contract.prepare
# What a breaker does is told on the Carriers page and to webhooks, not on the console.
Stoplight.default_notifiers = [Server::CarrierDown.new]
Server::Reading.hosts = Server::Settings.hosts if defined?(Puma::Server)
# The names of five thousand regions take a moment to read: nobody should wait for them.
Server::App.settings.duties.start if Server::Settings.duties?
Thread.new { [Server::Choices.all, Server::Geography.all] }
# What was taken out a moment before the end is noted all the same.
at_exit { Server::Beside.finish }

# Who asks is whoever the connection is from, or whom a proxy of ours names: nobody is believed to be somebody else.
use Server::Doors::OneProxy
use Server::Doors::Headers
use Server::Doors::OneForm
use Server::Doors::Listener
use Server::Watch, ready: -> { Server::Database.away }, now: -> { Server::Routes::Pages.standing(Server::App.settings) }
use Server::Doors::Host, permitted_hosts: Server::Settings.hosts, logging: false
use Server::Admission
use Server::CheckoutDoor, Server::App.settings.checkout
use Server::Doors::Origin
use Server::QuoteDoor, Server::App.settings.shelf
use Server::Doors::Legible
use Server::Doors::Brotli, root: Server::Settings.web, headers: Server::Routes::Pages::KEPT
use Rack::Static, root: Server::Settings.web, **Server::Routes::Pages::ASSETS
# What is answered line by line arrives line by line.
use Rack::Deflater, sync: true, if: Server::Doors::LONG
use Server::Doors::Pace, read: ->(origin) { Server::Routes::Policies.told(Server::App.settings.shelf, origin) }
run Server::App
