# frozen_string_literal: true

# Quote processes: as many as there are processors, the release compiled before they are forked.
require "etc"
require_relative "http/kept_alive"
require_relative "http/reading"

workers Integer(ENV.fetch("GATE_MILE_PROCESSES", Etc.nprocessors.to_s))
preload_app!
# A worker that has a newer release becomes the mould of the others: they are forked from it, one after another.
fork_worker 0
threads 4, 16
first_data_timeout 5
persistent_timeout 30
worker_shutdown_timeout 10
environment "production"
bind "tcp://#{ENV.fetch("BIND", "127.0.0.1")}:#{ENV.fetch("PORT", "4190")}"
quiet
# The end of whatever has started it ends it, too (server/commands/quotes.rb).
if ENV["GATE_MILE_LIFELINE"] == "1"
  Thread.new do
    $stdin.read
    Process.kill(:TERM, Process.pid)
  end
end
# Puma has a Server of its own.
before_worker_boot { |index| Object.const_get("Server::QuoteServer").watch(index) }
# What can't be read is told like everything else.
lowlevel_error_handler { |_error, _env, status| Object.const_get("Server::Problem").unread(status) }
