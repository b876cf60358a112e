# frozen_string_literal: true

module Server
  module Carriers
    # The core's door to carriers, for one request of the application: all questions run at the same time, under one
    # deadline that begins with the first of them, and none is asked twice. Answers are kept for a moment beyond it.
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
      # @param carriers [Hash{String => Object}, nil] by id; nil for those that are stored
      def initialize(deadline = Settings.deadline, carriers: nil)
        @deadline = deadline
        @carriers = carriers
        @said = {}
      end

      # @param requests [Array<GateMile::CarrierRequest>]
      # @return [Hash{GateMile::CarrierRequest => GateMile::Reply}]
      def answers(requests)
        new = requests - @said.keys
        @said.merge!(found(new)) if new.any?
        @said.slice(*requests)
      end

      private

      def found(requests)
        carriers = @carriers || Records::Carrier.where(id: requests.map(&:carrier).uniq).index_by(&:id)
        fresh = requests.to_h { |request| [request, kept(key(request, carriers))] }.compact
        fresh.merge(together(requests - fresh.keys, carriers))
      end

      # A secret or an account that changes makes another question of it.
      def key(request, carriers)
        carrier = carriers[request.carrier]
        Digest::SHA256.hexdigest([request.carrier, carrier&.lock_version, JSON.generate(GateMile::Documents.write(request))].join("\n"))
      end

      def kept(key)
        at, reply = Port.cache[key]
        return reply.with(age: (now - at).round) if at && now - at < KEPT

        at, reply = Shared.replies.read("reply #{key}")
        reply&.with(age: [Time.now.to_i - at, 0].max)
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      # @return [Float] seconds that are left
      def left = [@deadline - (now - @started), 0].max

      # A carrier that would have less than half of the time is not asked: being hurried is no failure of its own.
      def together(requests, carriers)
        @started ||= now
        return requests.to_h { |request| [request, late(request)] } if left < @deadline / 2

        threads = requests.map { |request| Thread.new { asked(request, carriers[request.carrier]) } }
        requests.zip(threads).to_h do |request, thread|
          reply, took = thread.join(left) && thread.value
          reply ? Calls.note(request.carrier, request, reply, took) : reply = late(request)
          keep(key(request, carriers), request, reply)
          [request, reply]
        end
      end

      def late(request)
        GateMile::Reply.failed(:silent, "No answer within #{format("%g", @deadline)} s").tap do |reply|
          Calls.note(request.carrier, request, reply, @deadline)
        end
      end

      # @return [Array(GateMile::Reply, Float)] with the seconds it took
      def asked(request, carrier)
        started = now
        reply = carrier && Client.new(carrier, left).ask(request)
        reply ||= GateMile::Reply.failed(:silent, "The carrier is gone")
        [reply, now - started]
      rescue StandardError => e
        Log.fault(e, "asking carrier #{carrier&.id}")
        [GateMile::Reply.failed(:fault, "A fault of this server, not of the carrier"), now - started]
      end

      # Nonsense is not kept: the carrier may say something better in a moment.
      def keep(key, request, reply)
        return unless reply.status == :answered && reply.services.each_value.none? { |one| one.status == :unusable }

        Shared.replies.write("reply #{key}", [Time.now.to_i, reply], expires_in: KEPT)
        Port.keep do
          Port.cache.shift while Port.cache.size >= MOST
          Port.cache[key] = [now, reply, request]
        end
      end
    end
  end
end
