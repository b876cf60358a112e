# frozen_string_literal: true

module GateMile
  # The state of one rate on its way through the steps of the {Pipeline}.
  #
  # ordinary_lines: those priced by the rate's plan; apart: those priced by themselves, fees: those of the ordinary ones
  # that pay something on top, both as [{Line}, {Placed}]; ordinary, treated: {Money}, the two parts; price: {Money}.
  class Run
    attr_reader :book, :basket, :rate, :answers, :place, :method, :causes, :reckoning
    attr_accessor :ordinary_lines, :apart, :fees, :ordinary, :treated, :price

    # @param book [Book]
    # @param basket [Basket]
    # @param rate [Rate]
    # @param answers [Hash] what the carriers answered, by request
    # @param place [Destination]
    # @param told [Boolean] whether a reckoning is kept
    def initialize(book, basket, rate, answers, place, told: true)
      @book = book
      @basket = basket
      @rate = rate
      @answers = answers
      @place = place
      @method = book.shipping_method(rate.method)
      @causes = []
      @reckoning = []
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
