# frozen_string_literal: true

module Server
  # Ends a process with whatever has started it, however that ends: what starts it holds a pipe to its standard input,
  # and the kernel closes that.
  module Lifeline
    # Set where a process is started like this.
    NAME = "GATE_MILE_LIFELINE"

    # @yield when the other end is gone; without a block this process is told to end
    # @return [Thread, nil] nil where nobody holds a lifeline
    def self.hold(&gone)
      return unless ENV[NAME] == "1"

      gone ||= -> { Process.kill(:TERM, Process.pid) }
      Thread.new do
        $stdin.read
        gone.call
      end
    end
  end
end
