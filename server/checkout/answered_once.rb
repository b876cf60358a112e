# frozen_string_literal: true

module Server
  # Answers by idempotency key: who asks the same again, because an answer was lost, gets the same for as long as it
  # holds; who asks the same at the same time waits for the one who was first.
  class AnsweredOnce
    # Characters of an idempotency key.
    LONGEST = 200
    # Seconds that an answer may take; a place that is held for longer was left by a process that ended.
    PATIENCE = 15
    # Seconds between two looks for the answer of whoever was first.
    LOOK = 0.01
    # Stands where an answer is still worked out.
    HELD = :held
    private_constant :LONGEST, :PATIENCE, :LOOK, :HELD

    # @param store [ActiveSupport::Cache::Store]
    def initialize(store = ActiveSupport::Cache::MemoryStore.new(size: 16 * 1_048_576))
      @store = store
    end

    # @param key [String] id of the checkout's key
    # @param given [String] its idempotency key
    # @param body [Object] parsed JSON
    # @param seconds [Integer] that an answer holds
    # @yieldreturn [Array] a Rack response
    # @return [Array] a Rack response
    # @raise [Problem] 422 where it stands for another question, 503 where the first answer takes too long
    def answer(key, given, body, seconds, &)
      raise Problem.new(422, "An idempotency key has at most #{LONGEST} characters.") if given.length > LONGEST

      name = "once #{key} #{Digest::SHA256.hexdigest(given)}"
      question = Digest::SHA256.hexdigest(JSON.generate(body))
      return kept(name, question, seconds, &) if hold(name, question)

      known = found(name) or return yield
      raise Problem.new(422, "This idempotency key was used for another question.") unless known.first == question

      known.last
    end

    # @return [void]
    def clear = @store.clear

    private

    # In one step with the look whether anybody else holds it.
    def hold(name, question) = @store.write(name, [question, HELD], expires_in: PATIENCE, unless_exist: true)

    def kept(name, question, seconds)
      response = yield
      @store.write(name, [question, response], expires_in: seconds)
      response
    rescue StandardError
      @store.delete(name)
      raise
    end

    # @return [Array(String, Array), nil] nil where it is gone: its answer was an error, or Redis is away
    def found(name)
      over = Database.now + PATIENCE
      loop do
        known = @store.read(name)
        return known if known.nil? || known.last != HELD
        raise Problem.new(503, "The same question is being answered. Ask again.", retry_after: 1) if Database.now > over

        sleep LOOK
      end
    end
  end
end
