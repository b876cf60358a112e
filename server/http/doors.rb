# frozen_string_literal: true

module Server
  # What stands in front of the application: only known hosts, and changes only from its own pages.
  module Doors
    PUBLIC = "/public/"
    # What pages of the application may load, and who may show them.
    POLICY = "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self'; " \
             "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

    # Whether compressing an answer pays: it is longer than a packet of a network.
    LONG = lambda do |_env, _status, headers, body|
      length = headers["content-length"]&.to_i || (body.respond_to?(:to_ary) ? body.to_ary.sum(&:bytesize) : nil)
      length.nil? || length > 1400
    end
  end
end
