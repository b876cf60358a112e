# frozen_string_literal: true

# The stand-ins answer as the application does: see server/puma.rb.
require_relative "../server/http/kept_alive"
# Whatever the machine's locale is: see server/boot.rb.
Encoding.default_external = Encoding::UTF_8
workers 0
threads 2, 24
first_data_timeout 5
quiet
