# frozen_string_literal: true

module Server
  # What processes share where there are several: the pace of keys, answers given once, what carriers said, and which of
  # them are left alone. In memory each process has its own; with GATE_MILE_REDIS they have one in Redis, and a Redis
  # that is away costs what is shared, and no quote.
  module Shared
    SIZE = 16 * 1_048_576
    # Seconds that Redis may take.
    PATIENCE = 0.2
    LIMITS = { connect_timeout: PATIENCE, read_timeout: PATIENCE, write_timeout: PATIENCE,
               reconnect_attempts: 0 }.freeze
    private_constant :SIZE, :PATIENCE, :LIMITS

    # Where processes share nothing: each asks carriers itself.
    module Apart
      def self.read(_name) = nil
      def self.write(_name, _value, **) = nil
    end
    private_constant :Apart

    class << self
      # @return [ActiveSupport::Cache::Store] for answers that are given once
      def store = redis? ? in_redis : (@store ||= ActiveSupport::Cache::MemoryStore.new(size: SIZE))

      # @return [ActiveSupport::Cache::Store, Counts] that counts
      def counts = redis? ? in_redis : Counts.new

      # @return [#read, #write] for what carriers said, beside what each process keeps itself
      def replies = redis? ? in_redis : Apart

      # @return [Stoplight::DataStore::Base] for breakers
      def breakers
        return Stoplight.default_data_store unless redis?

        @breakers ||= Stoplight::DataStore::Redis.new(Redis.new(url: Settings.redis, **LIMITS))
      end

      # @return [void] forgets the connections
      def clear = @store = @in_redis = @breakers = nil

      private

      def redis? = !Settings.redis.nil?

      def in_redis
        @in_redis ||= ActiveSupport::Cache::RedisCacheStore.new(url: Settings.redis, namespace: "gate-mile", **LIMITS)
      end
    end
  end
end
