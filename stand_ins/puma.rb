# frozen_string_literal: true

# The stand-ins answer as the application does: see server/puma.rb.
workers 0
threads 2, 24
queue_requests false
first_data_timeout 5
quiet
