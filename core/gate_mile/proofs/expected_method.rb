# frozen_string_literal: true

module GateMile
  # What one method is to come to for a proof's cart.
  #
  # method_id; kind: :exact, :at_most, :at_least (with an amount), :free, :offered (at whatever price) or :not_offered;
  # amount: {Money} or nil; marks: of :cheapest and :fastest, which it is to have; messages: texts that it is to carry.
  class ExpectedMethod < Value.of(:method_id, :kind, :amount, :marks, :messages)
    PRICED = %i[exact at_most at_least].freeze
    KINDS = [*PRICED, :free, :offered, :not_offered].freeze
    MESSAGES = 20

    # @param quote [MethodQuote]
    # @return [ExpectedMethod] exactly that
    def self.of(quote)
      unless quote.available?
        return new(method_id: quote.method_id, kind: :not_offered, amount: nil, marks: [], messages: [])
      end

      free = quote.price.zero?
      new(method_id: quote.method_id, kind: free ? :free : :exact, amount: (quote.price unless free),
          marks: quote.marks, messages: quote.messages)
    end

    # @return [Boolean]
    def offered? = kind != :not_offered

    # @param price [Money]
    # @return [Boolean] whether it is one like that
    def met?(price)
      case kind
      when :exact then price == amount
      when :at_most then price <= amount
      when :at_least then price >= amount
      when :free then price.zero?
      when :offered then true
      else false
      end
    end

    # @param quote [MethodQuote, nil] what it gets now
    # @return [ExpectedMethod] that holds of it, and says as much as before where that can be
    def accepting(quote)
      return with(kind: :not_offered, amount: nil, marks: [], messages: []) if quote.nil?

      now = ExpectedMethod.of(quote)
      return now unless quote.available?

      now = now.with(kind: kind, amount: amount) if met?(quote.price)
      if !met?(quote.price) && PRICED.include?(kind) && !quote.price.zero?
        now = now.with(kind: kind,
                       amount: quote.price)
      end
      now.with(marks: (marks & now.marks), messages: (messages & now.messages))
    end
  end
end
