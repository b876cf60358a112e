# frozen_string_literal: true

module Server
  # The interface behind the checkout door. {Checkout} implements it for the workbench and {QuoteCheckout} for a quote
  # server; both respond to all of {CALLS}. The calls that only a workbench can answer are refused here.
  module CheckoutPort
    # The methods, and how many arguments each takes at least.
    CALLS = { keys: 0, pace: 0, once: 0, ground: 0, quotes: 0, place: 2, close: 3, trial: 2, tried: 1, state: 0,
              book: 1, notice: 1 }.freeze

    # @return [KeyRing]
    attr_reader :keys
    # @return [CheckoutPace]
    attr_reader :pace
    # @return [AnsweredOnce]
    attr_reader :once

    # @param ring [KeyRing]
    # @return [void]
    def open_with(ring)
      @keys = ring
      @pace = CheckoutPace.new(Shared.counts)
      @once = AnsweredOnce.new(Shared.store)
    end

    # @param _id [String]
    # @param _key [KeyRing::Key]
    # @return [Trials::Trial]
    # @raise [Problem] 404
    def trial(_id, _key)
      raise(Problem.new(404, "Carts are tried at the workbench's own address, not at a quote server."))
    end

    # @param _trial [Trials::Trial]
    # @return [CheckoutQuotes::Ground] that it is quoted on
    # @raise [Problem] 404
    def tried(_trial) = only_at_the_workbench

    # @return [Hash] what a quote server has to know
    # @raise [Problem] 404
    def state = only_at_the_workbench

    # @param _number [Integer] of a release
    # @return [String] its canonical JSON
    # @raise [Problem] 404
    def book(_number) = only_at_the_workbench

    # @param _body [Hash] CheckoutNotices of the contract
    # @return [Array] a Rack response
    # @raise [Problem] 404
    def notice(_body) = only_at_the_workbench

    private

    def only_at_the_workbench = raise(Problem.new(404, "Only the workbench tells this."))
  end
end
