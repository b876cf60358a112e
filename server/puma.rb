# frozen_string_literal: true

# One process: SQLite has one writer, and compiled books are kept in memory.
workers 0
# One thread: see docs/decisions/0009-one-thread.md.
threads 1, 1
environment "production"
bind "tcp://#{ENV.fetch("BIND", "127.0.0.1")}:#{ENV.fetch("PORT", "4180")}"
quiet
