# frozen_string_literal: true

module Server
  module Records
    # A finding that the merchant has put to sleep. Its id is the finding's key: what says something else is not asleep.
    class SleepingFinding < Base
    end
  end
end
