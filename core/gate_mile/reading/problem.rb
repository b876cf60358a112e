# frozen_string_literal: true

module GateMile
  # One thing that is wrong with what was given: where (a JSON Pointer, RFC 6901), what (a code) and the numbers
  # that belong to it. Sentences are made outside the core.
  Problem = Value.of(:pointer, :code, :numbers)
end
