# frozen_string_literal: true

require "socket"

module Server
  # How long one question may be worked on: until its time is up, or until whoever asked has gone. What has not been
  # looked at by then is told as such, and can be asked for again.
  class Effort
    # Seconds between two looks at the connection.
    LOOK = 0.02
    private_constant :LOOK

    # @param env [Hash] of Rack
    # @param seconds [Float]
    def initialize(env, seconds = Settings.patience)
      @socket = env["puma.socket"]
      @until = now + seconds
      @look = 0
    end

    # @return [Boolean] whether to stop
    def call = now > @until || gone?

    # @return [Proc] {#call}, as the core takes it
    def to_proc = method(:call).to_proc

    # @return [Boolean] whether whoever asked has closed the connection
    def gone?
      return @gone if @gone || now < @look

      @look = now + LOOK
      @gone = closed?
    end

    private

    def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

    def closed?
      return false unless @socket.respond_to?(:recv_nonblock)

      [nil, ""].include?(@socket.recv_nonblock(1, Socket::MSG_PEEK, exception: false))
    rescue IOError, SystemCallError
      true
    end
  end
end
