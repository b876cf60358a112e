# frozen_string_literal: true

require "puma"
require "puma/server"

module Server
  # Lets Puma keep connections alive. A thread that hands a connection on to the reactor resets the connection's buffer
  # afterwards, while another thread may already be writing an answer into it (Puma 6.6, 7.1 and 8.0: `process_client`,
  # in its `ensure`). With a buffer for each thread, which writes one answer at a time, a late reset touches nothing but
  # its own.
  module KeptAlive
    KEY = :gate_mile_answer
    private_constant :KEY

    # @return [Puma::IOBuffer] of this thread
    def io_buffer
      Thread.current.thread_variable_get(KEY) ||
        Puma::IOBuffer.new.tap { |made| Thread.current.thread_variable_set(KEY, made) }
    end
  end
end

Puma::Client.prepend(Server::KeptAlive)
