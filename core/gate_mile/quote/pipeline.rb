# frozen_string_literal: true

module GateMile
  # Takes one rate through the named steps, in the order of section 1 of docs/engine.md. A step reads the run and
  # notes on it what it found; a method that fell out early is not brought back by a later step.
  class Pipeline
    STEPS = %i[restrictions lines ordinary price finish].freeze

    # The state of one rate on its way through the steps.
    class Run
      attr_reader :book, :basket, :rate, :answers, :method, :causes, :reckoning
      attr_accessor :ordinary, :price

      def initialize(book, basket, rate, answers)
        @book = book
        @basket = basket
        @rate = rate
        @answers = answers
        @method = book.shipping_method(rate.method)
        @causes = []
        @reckoning = []
      end

      def bar(code, setting = nil, **numbers)
        causes << Cause.new(code: code, numbers: numbers, setting: setting)
      end

      def note(step, code, amount: nil, setting: nil, **numbers)
        reckoning << ReckoningStep.new(step: step, code: code, numbers: numbers, amount: amount, setting: setting)
      end

      def out? = causes.any?
    end

    # Causes that mean: the merchant has left something open, rather than said no.
    INCOMPLETE = %i[no_price unknown_product].freeze
    private_constant :INCOMPLETE

    # @param book [Book]
    # @param basket [Basket]
    # @param rate [Rate]
    # @param answers [Hash] what the carriers answered, by request
    # @return [MethodQuote]
    def self.run(book, basket, rate, answers) = new(Run.new(book, basket, rate, answers)).call

    def initialize(run)
      @run = run
    end

    # @return [MethodQuote]
    def call
      STEPS.each do |step|
        send(step)
        break if @run.out?
      end
      result
    end

    private

    # May every line travel by it, and is it offered at all?
    def restrictions
      run = @run
      run.bar(:method_off, { kind: "method", id: run.method.id, field: "active" }) unless run.method.active
      run.bar(:rate_off, { kind: "rate", id: run.rate.id, field: "active" }) unless run.rate.active
      run.bar(:nothing_to_ship) if run.basket.shipping.empty?
      run.basket.shipping.each { |line| run.bar(:unknown_product, sku: line.sku) unless line.known }
      run.bar(:no_price, { kind: "rate", id: run.rate.id, field: "plan" }) if run.rate.plan.nil?
    end

    # Which lines take part.
    def lines
      staying = @run.basket.staying
      @run.note(:lines, :"lines.need_no_shipping", names: staying.map { |line| line.name || line.sku }) if staying.any?
      found = @run.basket.measures
      @run.note(:lines, :"lines.ordinary", lines: found.lines, quantity: found.quantity, value: found.value,
                                           weight: found.weight)
    end

    # What the ordinary lines cost by the rate's plan.
    def ordinary
      schedule = @run.rate.plan.schedule
      @run.ordinary = schedule.price(@run.basket.shipping)
      @run.note(:ordinary, schedule.code, amount: @run.ordinary,
                                          setting: { kind: "rate", id: @run.rate.id, field: "plan" },
                                          zone: @run.book.zone(@run.rate.zone).name)
    end

    # The sum of the parts.
    def price
      @run.price = @run.ordinary
      @run.note(:price, :"price.total", amount: @run.price)
    end

    # The name that the shopper sees.
    def finish
      return if @run.rate.name.nil? || @run.rate.name == @run.method.name

      @run.note(:finish, :"finish.renamed", from: @run.method.name, to: @run.rate.name,
                                            setting: { kind: "rate", id: @run.rate.id, field: "name" })
    end

    def result
      run = @run
      MethodQuote.new(method: run.method.id, rate: run.rate.id, code: run.method.code,
                      name: run.rate.name || run.method.name, promise: run.method.promise, status: status,
                      price: (run.price unless run.out?), marks: [], causes: run.causes, reckoning: run.reckoning)
    end

    def status
      return :available unless @run.out?

      @run.causes.all? { |cause| INCOMPLETE.include?(cause.code) } ? :incomplete : :unavailable
    end
  end
end
