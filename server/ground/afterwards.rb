# frozen_string_literal: true

module Server
  # Work that an answer need not wait for, such as counting and logging: it runs once the answer has been sent. Outside
  # of a request, or where the web server does not call back after an answer, it runs at once.
  module Afterwards
    # Rack 3: called by the web server, in the same thread, when the answer has been sent.
    FINISHED = "rack.response_finished"
    KEY = :gate_mile_afterwards
    private_constant :FINISHED, :KEY

    class << self
      # @param env [Hash] of Rack
      # @yield answers the request
      # @return [Object] what the block returns
      def of(env)
        Thread.current[KEY] = env[FINISHED]
        yield
      ensure
        Thread.current[KEY] = nil
      end

      # @param what [String] describes the work in the log, should it fail
      # @yield does the work
      # @return [void]
      def work(what)
        waiting = Thread.current[KEY] or return yield
        waiting << lambda do |*|
          yield
        rescue StandardError => e
          Log.fault(e, what)
        end
      end
    end
  end
end
