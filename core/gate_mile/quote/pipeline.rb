# frozen_string_literal: true

module GateMile
  # Takes one rate through the named steps, in the order of section 1 of docs/engine.md. A step reads the run and
  # notes on it what it found; a method that fell out early is not brought back by a later step.
  class Pipeline
    STEPS = %i[restrictions lines ordinary treated offers price rules label finish].freeze

    # Causes that mean: more of the address has to be known.
    ADDRESS = %i[address_open address_decides].freeze
    # Causes that mean: the merchant has left something open, rather than said no.
    INCOMPLETE = %i[live_waiting no_origin no_boxes no_price unknown_product no_weight no_size blank_cell
                    no_class_price].freeze
    private_constant :INCOMPLETE

    # @param book [Book]
    # @param basket [Basket]
    # @param rate [Rate]
    # @param answers [Hash{CarrierRequest => Reply}, nil] what the carriers answered; nil while they are not asked
    # @param place [Destination]
    # @param terms [Terms, nil]
    # @return [MethodQuote]
    def self.run(book, basket, rate, answers, place, terms: nil)
      new(Run.new(book, basket, rate, answers, place, terms: terms)).call
    end

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

    # @return [Array<CarrierRequest>] what carriers must be asked to price it
    def requests
      restrictions
      return [] if @run.out? || @run.rate.live.nil?

      lines
      return [] if @run.ordinary_lines.empty?

      [@run.ordinary_lines, *sharing].uniq.flat_map { |lines| LivePricing.new(@run, lines).requests }.uniq
    end

    # @return [Array<Line>] those that the plan prices
    def ordinary_lines
      lines
      @run.ordinary_lines
    end

    private

    # May every line travel by it, and is it offered at all?
    def restrictions = Restrictions.new(@run).look

    def setting(placed, field) = { kind: "treatment", id: placed.treatment.id, field: field }

    # Which lines take part in the ordinary calculation, and which are treated.
    def lines
      run = @run
      staying = run.basket.staying
      run.note(:lines, :"lines.need_no_shipping", names: staying.map(&:label)) if staying.any?
      priced = run.basket.shipping.map { |line| [line, price_part(line)] }
      run.apart, along = priced.partition { |_, placed| placed && placed.treatment.price.apart? }
      run.fees = along.select { |_, placed| placed && placed.treatment.price.plus }
      run.ordinary_lines = along.map(&:first)
      tell_lines(priced.select(&:last)) if run.told?
    end

    def price_part(line)
      return if line.treatments.empty?

      zone = @run.rate.zone
      line.treatments.find { |placed| placed.treatment.price && placed.treatment.applies?(zone, @run.method.id) }
    end

    def tell_lines(treated)
      treated.each do |line, placed|
        code = placed.treatment.price.apart? ? :"lines.apart" : :"lines.along"
        @run.note(:lines, code, setting: setting(placed, "price"), name: line.label, treatment: placed.treatment.name,
                                level: placed.level, units: line.quantity)
      end
      return @run.note(:lines, :"lines.none_ordinary") if @run.ordinary_lines.empty?

      found = @run.basket.measures_of(@run.ordinary_lines)
      @run.note(:lines, :"lines.ordinary", lines: found.lines, quantity: found.quantity, value: found.value,
                                           weight: found.weight, apart: @run.apart.size)
    end

    # What the ordinary lines cost by the rate's plan; nothing at all where there are none.
    def ordinary
      return @run.ordinary = Money.zero(@run.book.currency) if @run.ordinary_lines.empty?

      found = if @run.rate.live then @run.live = LivePricing.new(@run, @run.ordinary_lines).price
              else @run.rate.plan.price(@run.ordinary_lines, @run.basket, @run.place)
              end
      tell_plan(found, { kind: "rate", id: @run.rate.id, field: @run.rate.live ? "live" : "plan" })
      @run.ordinary = found.amount
    end

    # Goods that pay their own way are priced alone: for them carriers are asked too.
    def sharing
      return [] if @run.terms.nil?

      choices = @run.terms.open.map(&:offer).select { |offer| offer.paying && offer.names?(@run.method.id) }
      choices.map { |offer| @run.ordinary_lines.select { |line| offer.paying.include?(line) } }
             .reject { |lines| lines.empty? || lines.size == @run.ordinary_lines.size }
    end

    def tell_plan(found, setting)
      tell_steps(found.steps, setting) if @run.told?
      found.refusals.each do |refusal|
        @run.bar(refusal.code, setting, **refusal.numbers)
        open_address(refusal) if ADDRESS.include?(refusal.code) && @run.place.known?
      end
    end

    def open_address(refusal) = @run.provisional.push(refusal.numbers.fetch(:field, "country").to_sym).uniq!

    def tell_steps(steps, setting)
      zone = @run.book.zone(@run.rate.zone).name
      steps.each do |code, amount, numbers|
        @run.note(:ordinary, code, amount: amount, setting: setting, zone: zone, **numbers)
      end
    end

    # What treated goods pay by themselves, and fees on top of ordinary ones.
    def treated
      run = @run
      run.treated_parts = groups.map { |placed, lines| [lines, priced_apart(placed, lines)] } +
                          run.fees.map { |line, placed| [[line], fee(line, placed)] }
      run.treated = run.treated_parts.map(&:last).sum(Money.zero(run.book.currency))
    end

    # Units that count together: all that one treatment prices of one product, or all that it prices.
    def groups
      @run.apart.group_by do |line, placed|
        [placed.treatment.id, (line.kin unless placed.treatment.price.together)]
      end.map { |_, found| [found.first.last, found.map(&:first)] }
    end

    def priced_apart(placed, lines)
      units = lines.sum(&:quantity)
      charge = placed.treatment.price.charge_for(@run.method.id)
      parts = charge.parts(units)
      charge.price(units).tap do |amount|
        @run.note(:treated, :"treated.apart", amount: amount, setting: setting(placed, "price"), units: units,
                                              names: lines.map(&:label), treatment: placed.treatment.name,
                                              counting: charge.counting, parts: parts)
      end
    end

    def fee(line, placed)
      plus = placed.treatment.price.plus
      (plus * line.quantity).tap do |amount|
        @run.note(:treated, :"treated.fee", amount: amount, setting: setting(placed, "price"), name: line.label,
                                            units: line.quantity, each: plus, treatment: placed.treatment.name)
      end
    end

    # What offers take off.
    def offers
      return if @run.terms.nil?

      @run.outcomes = Settling.new(@run, @run.terms).settle
      @run.reckoning.concat(@run.outcomes.map(&:told)) if @run.told?
    end

    # An offer that acted may say what the method is called, unless a rule has: by the price that is left, so that no
    # name promises what is not so.
    def label
      return if @run.renamed

      offer, label = @run.outcomes.reverse_each.filter_map do |one|
        [one.offer, one.offer.label_at(@run.price)] if one.state == :acted && one.offer.label_at(@run.price)
      end.first
      return if label.nil?

      @run.note(:offers, :"offer.renamed", from: @run.name, to: label, offer: offer.name,
                                           setting: { kind: "offer", id: offer.id, field: "label" })
      @run.name = label
    end

    # The sum of the parts.
    def price
      @run.price = @run.ordinary + @run.treated
      @run.note(:price, :"price.total", amount: @run.price)
    end

    # What rules make of the price.
    def rules = @run.terms && Judging.new(@run, @run.terms).judge

    # The name that the shopper sees.
    def finish
      return if @run.rate.name.nil? || @run.rate.name == @run.method.name

      @run.note(:finish, :"finish.renamed", from: @run.method.name, to: @run.rate.name,
                                            setting: { kind: "rate", id: @run.rate.id, field: "name" })
    end

    def result
      run = @run
      beside = BesidePrice.new(run)
      MethodQuote.new(method: run.method.id, rate: run.rate.id, code: run.method.code,
                      name: run.name, promise: run.method.promise, status: status,
                      price: (run.price unless run.out?), cost: beside.cost, marks: [], causes: run.causes,
                      outcomes: run.outcomes, messages: run.messages, provisional: run.provisional,
                      unsettled: run.unsettled,
                      reckoning: run.reckoning, live: run.live&.age,
                      **beside.arrival, duty: beside.duty)
    end

    def status
      return :available unless @run.out?

      @run.causes.all? { |cause| open?(cause.code) } ? :incomplete : :unavailable
    end

    # Where the cart goes, more of its address may bring a price; to the other zones it goes in no case.
    def open?(code) = INCOMPLETE.include?(code) || (ADDRESS.include?(code) && @run.place.known?)
  end
end
