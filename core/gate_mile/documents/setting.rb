# frozen_string_literal: true

module GateMile
  # What documents are read by: currency: {Currency} of amounts, time_zone: IANA name of moments; nil where a book does
  # not say them well, which is told there.
  Setting = Struct.new(:currency, :time_zone)
end
