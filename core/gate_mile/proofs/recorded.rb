# frozen_string_literal: true

module GateMile
  # What carriers said once, kept to be heard again: a carriers' port that asks nobody. A question that was not asked
  # then has no answer, and is remembered.
  class Recorded
    # One question and its answer. carrier: id; asked: the question as {LiveForms::RequestForm} writes it; reply:
    # {Reply}; at: {Time} of the answer.
    class Answer < Value.of(:carrier, :asked, :reply, :at)
    end

    SILENT = Reply.failed(:silent, "Nothing was recorded for this question").freeze
    private_constant :SILENT

    # @return [Array<Answer>]
    attr_reader :answers

    # @param port [#answers] that asks
    # @param at [Time]
    # @return [Listening] the same, which remembers
    def self.listening(port, at) = Listening.new(port, at)

    # @param answers [Array<Answer>]
    def initialize(answers = [])
      @answers = answers.freeze
      @known = answers.to_h { |one| [[one.carrier, one.asked], one.reply] }.freeze
      freeze
    end

    NONE = new

    # @return [Recorded] the same answers to questions for {Address#shortened}
    def shortened = Recorded.new(answers.map { |one| one.with(asked: Recorded.shortened(one.asked)) })

    # @param asked [Hash] a question as it is written
    # @return [Hash]
    def self.shortened(asked)
      to = Address.new(**asked["destination"].transform_keys(&:to_sym)).shortened
      asked.merge("destination" => Documents.write(to))
    end

    # @return [Time, nil] of the oldest answer
    def at = answers.map(&:at).min

    # @return [Heard] to be asked by one quote
    def port = Heard.new(@known)

    def ==(other) = other.is_a?(Recorded) && answers == other.answers
    alias eql? ==
    def hash = answers.hash

    # Answers for one quote. Questions that have none are in {#missing}.
    class Heard
      # @return [Array<CarrierRequest>]
      attr_reader :missing

      # @param known [Hash]
      def initialize(known)
        @known = known
        @missing = []
      end

      # @param requests [Array<CarrierRequest>]
      # @return [Hash{CarrierRequest => Reply}]
      def answers(requests)
        requests.to_h do |request|
          reply = @known[[request.carrier, Documents.write(request)]]
          @missing << request if reply.nil?
          [request, reply || SILENT]
        end
      end
    end

    # Asks, and keeps what was said.
    class Listening
      # @param port [#answers]
      # @param at [Time]
      def initialize(port, at)
        @port = port
        @at = at
        @heard = []
      end

      # @param requests [Array<CarrierRequest>]
      # @return [Hash{CarrierRequest => Reply}]
      def answers(requests)
        @port.answers(requests).each do |request, reply|
          @heard << Answer.new(carrier: request.carrier, asked: Documents.write(request), reply: reply, at: @at)
        end
      end

      # Who was silent, or talked nonsense, said nothing to be kept.
      # @return [Recorded]
      def recorded
        Recorded.new(@heard.select { |one| %i[answered refused].include?(one.reply.status) }.uniq)
      end
    end
  end
end
