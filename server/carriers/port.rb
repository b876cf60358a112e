# frozen_string_literal: true

module Server
  module Carriers
    # The core's door to carriers: all requests of a quote run at the same time, under one deadline; answers are kept
    # for a moment.
    class Port
      # Seconds for which an answer is good enough for the same question.
      KEPT = 60
      MOST = 2000
      # How many questions of a survey are asked at the same time.
      SLICE = 12

      class << self
        # @return [Hash]
        def cache = @cache ||= {}

        # @return [Hash{GateMile::CarrierRequest => GateMile::Reply}] all that are kept
        def kept = cache.values.to_h { |_, reply, request| [request, reply] }

        # @return [Integer] another one whenever something new has been answered
        def generation = @generation ||= 0

        # @return [void]
        def clear = keep { @cache = {} }

        # What changes what is kept, one at a time.
        # @return [void]
        def keep
          lock.synchronize do
            yield
            @generation = generation + 1
          end
        end

        def lock = @lock ||= Mutex.new
      end

      # @param deadline [Float] seconds
      def initialize(deadline = Settings.deadline)
        @deadline = deadline
      end

      # @param requests [Array<GateMile::CarrierRequest>]
      # @return [Hash{GateMile::CarrierRequest => GateMile::Reply}]
      def answers(requests)
        carriers = Records::Carrier.where(id: requests.map(&:carrier).uniq).index_by(&:id)
        fresh, asked = requests.partition { |request| kept(key(request, carriers)) }
        found = fresh.to_h { |request| [request, kept(key(request, carriers))] }
        found.merge(together(asked, carriers))
      end

      private

      # A secret or an account that changes makes another question of it.
      def key(request, carriers)
        carrier = carriers[request.carrier]
        Digest::SHA256.hexdigest([request.carrier, carrier&.lock_version, JSON.generate(request.dump)].join("\n"))
      end

      def kept(key)
        at, reply = Port.cache[key]
        reply.with(age: (now - at).round) if at && now - at < KEPT
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def together(requests, carriers)
        started = now
        threads = requests.map { |request| Thread.new { asked(request, carriers[request.carrier]) } }
        requests.zip(threads).to_h do |request, thread|
          reply = thread.join([@deadline - (now - started), 0].max) && thread.value
          reply ||= late(request)
          keep(key(request, carriers), request, reply)
          [request, reply]
        end
      end

      def late(request)
        GateMile::Reply.failed(:silent, "No answer within #{format("%g", @deadline)} s").tap do |reply|
          Calls.note(request.carrier, request, reply, @deadline)
        end
      end

      def asked(request, carrier)
        started = now
        return GateMile::Reply.failed(:silent, "The carrier is gone") if carrier.nil?

        reply = Client.new(carrier, @deadline).ask(request)
        took = now - started
        Calls.note(carrier.id, request, reply, took) if took < @deadline
        reply
      rescue StandardError => e
        GateMile::Reply.failed(:silent, e.class.name)
      end

      def keep(key, request, reply)
        return unless reply.status == :answered

        Port.keep do
          Port.cache.shift while Port.cache.size >= MOST
          Port.cache[key] = [now, reply, request]
        end
      end
    end
  end
end
