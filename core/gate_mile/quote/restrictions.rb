# frozen_string_literal: true

module GateMile
  # The first step of a rate: may every line travel by it, and is it offered at all, here and now? What speaks against
  # it is noted on the run.
  class Restrictions
    # @param run [Run]
    def initialize(run)
      @run = run
    end

    # @return [void]
    def look
      run = @run
      switched_off
      run.bar(:nothing_to_ship) if run.basket.shipping.empty?
      shut
      run.basket.shipping.each do |line|
        run.bar(:unknown_product, sku: line.code) unless line.known
        barred(line) if line.treatments.any?
      end
      run.bar(:no_price, { kind: "rate", id: run.rate.id, field: "plan" }) if run.rate.plan.nil? && run.rate.live.nil?
      narrowed
    end

    private

    # A rate may hold in a part of its zone only. Where the cart does not go to the zone, it is priced as if it went
    # there.
    def narrowed
      found = @run.rate.areas&.column(nil, @run.place)
      return unless found.is_a?(Refusal)
      return @run.note(:restrictions, :"rate.narrowed") if found.code == :address_decides
      return narrowed_perhaps(found.numbers[:field].to_sym) if found.code == :address_open

      @run.bar(found.code, { kind: "rate", id: @run.rate.id, field: "areas" }, **found.numbers)
    end

    # Too little of the address is known: it is priced, and told that this field may take it away.
    def narrowed_perhaps(field)
      @run.provisional << field
      @run.unsettled << field
      @run.note(:restrictions, :"rate.narrowed_perhaps", field: field,
                                                         setting: { kind: "rate", id: @run.rate.id, field: "areas" })
    end

    # Is it open at the moment of the checkout?
    def shut
      reason = @run.terms && @run.method.delivery&.shut(@run.terms.facts.time) or return
      @run.bar(reason, { kind: "method", id: @run.method.id, field: "delivery" }, at: @run.terms.facts.time)
    end

    def switched_off
      @run.bar(:method_off, { kind: "method", id: @run.method.id, field: "active" }) unless @run.method.active
      @run.bar(:rate_off, { kind: "rate", id: @run.rate.id, field: "active" }) unless @run.rate.active
    end

    def barred(line)
      line.treatments.each do |placed|
        next unless placed.treatment.bars?(@run.rate.zone, @run.method.id)

        setting = { kind: "treatment", id: placed.treatment.id, field: "travel" }
        @run.bar(:line_barred, setting, name: line.label, sku: line.sku, level: placed.level,
                                        treatment: placed.treatment.name)
      end
    end
  end
end
