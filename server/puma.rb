# frozen_string_literal: true

# One process: SQLite has one writer, and compiled books are kept in memory.
workers 0
# Threads, so that nobody waits for a carrier that somebody else has asked. Connections that wait for a request, and
# requests that come slowly, take none: docs/decisions/0009-threads-and-kept-alive-connections.md.
require_relative "http/kept_alive"
require_relative "http/reading"
threads 4, 32
first_data_timeout 5
persistent_timeout 30
environment "production"
# What shops ask, apart from what merchants use: see docs/deploy.md.
bind "tcp://#{ENV.fetch("GATE_MILE_PUBLIC")}" unless ENV["GATE_MILE_PUBLIC"].to_s.empty?
bind "tcp://#{ENV.fetch("BIND", "127.0.0.1")}:#{ENV.fetch("PORT", "4180")}"
quiet
# What can't be read is told like everything else.
lowlevel_error_handler { |_error, _env, status| Object.const_get("Server::Problem").unread(status) }
