# frozen_string_literal: true

# One process: SQLite has one writer, and compiled books are kept in memory.
workers 0
# Threads, so that nobody waits for a carrier that somebody else has asked; no queue and so no kept-alive connections:
# docs/decisions/0009-threads-without-a-queue.md says why. Browsers open connections ahead of their requests, and each
# takes a thread for as long as nothing comes.
threads 4, 32
queue_requests false
first_data_timeout 5
environment "production"
bind "tcp://#{ENV.fetch("BIND", "127.0.0.1")}:#{ENV.fetch("PORT", "4180")}"
quiet
