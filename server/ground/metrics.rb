# frozen_string_literal: true

require "prometheus/client"
require "prometheus/client/data_stores/direct_file_store"
require "prometheus/client/formats/text"

module Server
  # What is counted for whoever watches over the server, as Prometheus reads it. Nothing in it says who asked, what for
  # or from where.
  module Metrics
    # Seconds of quotes and of carriers' calls, as upper bounds.
    SECONDS = [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5].freeze
    # What stands now.
    STANDING = { release: "Number of the release that is live", orders_waiting: "Orders that wait for the workbench",
                 orders_refused: "Orders that the workbench refused",
                 release_age: "Seconds since the live release began to count",
                 workbench_answered: "Seconds since the workbench last answered",
                 oldest_order: "Seconds that the oldest waiting order has waited",
                 deliveries_waiting: "Messages that wait to be sent",
                 backup_age: "Seconds since the last backup", backup_failures: "Failed tries to make a backup" }.freeze
    LOCK = Mutex.new
    private_constant :SECONDS, :STANDING, :LOCK

    # All there is to count in one process.
    Counted = Struct.new(:registry, :quotes, :quote_seconds, :calls, :call_seconds, :requests, :standing)
    private_constant :Counted

    class << self
      # Where several processes serve together, they count in files.
      # @param folder [String]
      # @return [void]
      def share(folder)
        FileUtils.rm_rf(folder)
        FileUtils.mkdir_p(folder, mode: 0o700)
        Prometheus::Client.config.data_store = Prometheus::Client::DataStores::DirectFileStore.new(dir: folder)
        @counted = nil
      end

      # @param outcome [Symbol] status of a quote
      # @param seconds [Float] that it took
      # @return [void]
      def quote(outcome, seconds)
        counted.quotes.increment(labels: { outcome: outcome })
        counted.quote_seconds.observe(seconds)
      end

      # @param carrier [String] id
      # @param outcome [Symbol] status of a reply
      # @param seconds [Float] that it took
      # @return [void]
      def call(carrier, outcome, seconds)
        counted.calls.increment(labels: { carrier: carrier, outcome: outcome })
        counted.call_seconds.observe(seconds, labels: { carrier: carrier })
      end

      # @param part [String] of the server: checkout, public, api or page
      # @param status [Integer] of the answer
      # @return [void]
      def request(part, status) = counted.requests.increment(labels: { part: part, status: status })

      # @param now [Hash{Symbol => Integer}] what stands now, by names of {STANDING}
      # @return [String] all of it, as text
      def told(now)
        now.each { |name, value| counted.standing.fetch(name).set(value) if value }
        Prometheus::Client::Formats::Text.marshal(counted.registry)
      end

      private

      def counted = @counted || LOCK.synchronize { @counted ||= made(Prometheus::Client::Registry.new) }

      def made(all)
        Counted.new(
          all, all.counter(:gate_mile_quotes_total, docstring: "Quotes of the checkout door", labels: [:outcome]),
          all.histogram(:gate_mile_quote_seconds, docstring: "How long they took", buckets: SECONDS),
          all.counter(:gate_mile_carrier_calls_total, docstring: "Calls to carriers", labels: %i[carrier outcome]),
          all.histogram(:gate_mile_carrier_seconds, docstring: "How long they took", labels: [:carrier],
                                                    buckets: SECONDS),
          all.counter(:gate_mile_requests_total, docstring: "Answers", labels: %i[part status]),
          STANDING.to_h { |name, text| [name, all.gauge(:"gate_mile_#{name}", docstring: text, **latest)] }
        )
      end

      # All processes see it alike, so what was said last counts.
      def latest
        shared = Prometheus::Client.config.data_store.is_a?(Prometheus::Client::DataStores::DirectFileStore)
        shared ? { store_settings: { aggregation: :most_recent } } : {}
      end
    end
  end
end
