# frozen_string_literal: true

module GateMile
  # The state of one rate on its way through the steps of the {Pipeline}.
  #
  # ordinary_lines: those priced by the rate's plan; apart: those priced by themselves, fees: those of the ordinary ones
  # that pay something on top, both as [{Line}, {Placed}]; ordinary, treated: {Money}, the parts; treated_parts: what
  # the second is made of, as [lines, {Money}]; price: {Money}; name: what the shopper reads; outcomes: of offers that
  # name the method; messages: of rules; provisional: facts that the cart does not carry and that may change the price;
  # unsettled: those of them that may take the method away or change what it costs; renamed: whether a rule has said
  # what it is called.
  class Run
    attr_reader :book, :basket, :rate, :answers, :place, :method, :causes, :reckoning, :terms, :messages, :provisional,
                :unsettled
    attr_accessor :live, :ordinary_lines, :apart, :fees, :ordinary, :treated, :treated_parts, :price, :name, :outcomes,
                  :renamed

    # @param book [Book]
    # @param basket [Basket]
    # @param rate [Rate]
    # @param answers [Hash{CarrierRequest => Reply}, nil] what the carriers answered, nil while they are not asked
    # @param place [Destination]
    # @param terms [Terms, nil] what offers and rules say; without them neither has a part in the price
    # @param told [Boolean] whether a reckoning is kept
    def initialize(book, basket, rate, answers, place, terms: nil, told: true)
      @book = book
      @basket = basket
      @rate = rate
      @answers = answers
      @place = place
      @method = book.shipping_method(rate.method)
      @terms = terms
      @name = rate.name || @method.name
      @causes = []
      @reckoning = []
      @outcomes = []
      @messages = []
      @provisional = []
      @unsettled = []
      @told = told
    end

    # @return [Boolean] whether a reckoning is kept
    def told? = @told

    # @param code [Symbol] why the method is not available
    # @param setting [Hash, nil]
    # @param numbers [Hash]
    # @return [void]
    def bar(code, setting = nil, **numbers)
      causes << Cause.new(code: code, numbers: numbers, setting: setting)
    end

    # @param step [Symbol] of the pipeline
    # @param code [Symbol] what happened
    # @param numbers [Hash] what went in
    # @return [void]
    def note(step, code, amount: nil, setting: nil, **numbers)
      return unless told?

      reckoning << ReckoningStep.new(step: step, code: code, numbers: numbers, amount: amount, setting: setting)
    end

    # @return [Boolean]
    def out? = causes.any?
  end
end
