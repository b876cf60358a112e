# frozen_string_literal: true

module Server
  # Answers by idempotency key: who asks the same again, because an answer was lost, gets the same.
  class AnsweredOnce
    SECONDS = 900
    # Characters of an idempotency key.
    LONGEST = 200
    private_constant :SECONDS, :LONGEST

    # @param store [ActiveSupport::Cache::Store]
    def initialize(store = ActiveSupport::Cache::MemoryStore.new(size: 16 * 1_048_576))
      @store = store
    end

    # @param key [String] id of the checkout's key
    # @param given [String] its idempotency key
    # @param body [Object] parsed JSON
    # @yieldreturn [Array] a Rack response
    # @return [Array] a Rack response
    # @raise [Problem] 422 where it stands for another question
    def answer(key, given, body)
      raise Problem.new(422, "An idempotency key has at most #{LONGEST} characters.") if given.length > LONGEST

      name = "once #{key} #{Digest::SHA256.hexdigest(given)}"
      question = Digest::SHA256.hexdigest(JSON.generate(body))
      known = @store.read(name) or return kept(name, question, yield)
      return known.last if known.first == question

      raise Problem.new(422, "This idempotency key was used for another question.")
    end

    # @return [void]
    def clear = @store.clear

    private

    def kept(name, question, response)
      @store.write(name, [question, response], expires_in: SECONDS)
      response
    end
  end
end
