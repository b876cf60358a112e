# frozen_string_literal: true

module Server
  # What processes share where there are several: the pace of keys and answers given once. In memory each process has
  # its own; with GATE_MILE_REDIS they have one in Redis.
  module Shared
    SIZE = 16 * 1_048_576
    private_constant :SIZE

    class << self
      # @return [ActiveSupport::Cache::Store]
      def store
        @store ||= Settings.redis ? in_redis : ActiveSupport::Cache::MemoryStore.new(size: SIZE)
      end

      private

      # A Redis that is away costs what is shared, and no quote.
      def in_redis
        ActiveSupport::Cache::RedisCacheStore.new(url: Settings.redis, namespace: "gate-mile", connect_timeout: 0.2,
                                                  read_timeout: 0.2, write_timeout: 0.2, reconnect_attempts: 0)
      end
    end
  end
end
