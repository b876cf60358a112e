# frozen_string_literal: true

require "connection_pool"
require "faraday"
require "faraday/net_http_persistent"
require "stoplight"

module Server
  module Carriers
    # Connections to carriers, a pool for each scheme, host and port: one that hangs never takes the connections of
    # another, and an address with https is never spoken to over a connection that was opened without it. And the
    # breakers, which let one call through when the time to try again has come.
    module Lines
      # Connections to one origin.
      SIZE = 12
      # Calls that fail in a row until a carrier is left alone, and for how many seconds.
      FAILURES = 3
      COOL_OFF = 20
      # Origins that are kept: merchants try addresses out.
      KEPT = 100

      class << self
        # @param address [String] of a carrier
        # @param patience [Float] seconds to wait for a free connection
        # @yieldparam connection [Faraday::Connection] to its origin
        # @return [Object] what the block returns
        # @raise [Trouble] :silent where none is free in time; the carrier is not to blame for that
        def open(address, patience, &)
          pool(Records::Carrier.origin(address)).with(timeout: [patience, 0].max, &)
        rescue ConnectionPool::TimeoutError
          raise Trouble.new(:silent, "Too many questions at once", own: true)
        end

        # @param carrier [Records::Carrier]
        # @yield the call
        # @return [Object] what the block returns
        # @raise [Stoplight::Error::RedLight] while it is left alone, and while another call tries whether it is back
        def guarded(carrier, &)
          light = breaker(carrier)
          return light.run(&) unless light.color == Stoplight::Color::YELLOW

          probe = lock.synchronize { probes[light.name] ||= Mutex.new }
          raise Stoplight::Error::RedLight, light.name unless probe.try_lock

          begin
            light.run(&)
          ensure
            probe.unlock
          end
        end

        # @param carrier [Records::Carrier]
        # @return [Stoplight::Light]
        def breaker(carrier)
          light = Stoplight("carrier #{carrier.id} #{carrier.address}")
          light.with_data_store(Shared.breakers).with_threshold(FAILURES).with_cool_off_time(COOL_OFF)
               .with_error_notifier { |_| nil }
               .with_error_handler { |error, count| counted(error, count) }
        end

        # @param carrier [Records::Carrier]
        # @return [Boolean] whether it is left alone for now
        def resting?(carrier) = breaker(carrier).color == Stoplight::Color::RED

        # @return [void] closes every connection
        def clear
          lock.synchronize do
            pools.each_value { |pool| pool.shutdown(&:close) }
            pools.clear
          end
        end

        private

        # Only a carrier's own silence counts: a refusal or nonsense is an answer, and what is our own fault is not its.
        def counted(error, count)
          raise error unless error.is_a?(Trouble) && error.status == :silent && !error.own?

          count.call(error)
        end

        def pool(origin)
          lock.synchronize do
            pools.delete(pools.each_key.first)&.shutdown(&:close) if pools.size >= KEPT && !pools.key?(origin)
            pools[origin] ||= ConnectionPool.new(size: SIZE) do
              Faraday.new { |to| to.adapter(:net_http_persistent, name: origin.join(" "), pool_size: 1) }
            end
          end
        end

        attr_reader :pools, :probes, :lock
      end
      @pools = {}
      @probes = {}
      @lock = Mutex.new
    end
  end
end
