# frozen_string_literal: true

module GateMile
  # Holds what a cart gets against what it is to get.
  class Comparing
    # @param expected [Expected]
    # @param quote [Quote]
    def initialize(expected, quote)
      @expected = expected
      @quote = quote
      @now = quote.method_quotes.to_h { |one| [one.method_id, one] }
    end

    # @return [Array<Departure>] none where all is as expected
    def list
      [*whole, *@expected.methods.flat_map { |one| of(one) }, *beyond, *order]
    end

    private

    def differ(code, wanted, gets, method_id = nil)
      Departure.new(code: code, method_id: method_id, wanted: wanted, gets: gets)
    end

    def whole
      zone = @quote.landing&.zone&.id
      [(differ(:status, @expected.status, @quote.status) if differs?(@expected.status, @quote.status)),
       (differ(:zone, @expected.zone, zone) if differs?(@expected.zone, zone)),
       (differ(:text, @expected.text, @quote.text) if differs?(@expected.text, @quote.text))].compact
    end

    def differs?(wanted, gets) = !wanted.nil? && wanted != gets

    def of(wanted)
      found = @now[wanted.method_id]
      unless wanted.offered?
        return found&.available? ? [differ(:offered, nil, found.price.to_s, wanted.method_id)] : []
      end
      return [differ(:gone, said(wanted), nil, wanted.method_id)] unless found&.available?

      [*price(wanted, found), *marks(wanted, found), *messages(wanted, found)]
    end

    def price(wanted, found)
      wanted.met?(found.price) ? [] : [differ(:price, said(wanted), found.price.to_s, wanted.method_id)]
    end

    def said(wanted) = { kind: wanted.kind, amount: wanted.amount&.to_s }.compact

    def marks(wanted, found)
      return [] if wanted.marks.empty?

      (wanted.marks - found.marks).map { |mark| differ(:mark, mark, nil, wanted.method_id) }
    end

    def messages(wanted, found)
      (wanted.messages - found.messages).map { |text| differ(:message, text, nil, wanted.method_id) }
    end

    def offered = @offered ||= @quote.method_quotes.select(&:available?)

    # Methods of which nothing was said, where no other may be offered.
    def beyond
      return [] unless @expected.only

      named = @expected.methods.map(&:method_id)
      offered.reject { |one| named.include?(one.method_id) }
             .map { |one| differ(:offered, nil, one.price.to_s, one.method_id) }
    end

    def order
      return [] unless @expected.ordered

      ids = offered.map(&:method_id)
      wanted = @expected.methods.map(&:method_id) & ids
      gets = ids & wanted
      wanted == gets ? [] : [differ(:order, wanted, gets)]
    end
  end
end
