# frozen_string_literal: true

# One process: SQLite has one writer, and compiled books are kept in memory.
workers 0
threads 1, 8
environment "production"
bind "tcp://#{ENV.fetch("BIND", "127.0.0.1")}:#{ENV.fetch("PORT", "4180")}"
quiet
