# frozen_string_literal: true

module GateMile
  # What one method of a zone comes to for one cart. Why, and what is said beside the price, is worked out when somebody
  # asks.
  class MethodQuote
    # Causes that mean: more of the address has to be known.
    ADDRESS = %i[address_open address_decides].freeze
    # Causes that mean: the merchant has left something open, rather than said no.
    INCOMPLETE = %i[live_waiting no_origin no_boxes no_price unknown_product no_weight no_size blank_cell
                    no_class_price].freeze
    private_constant :INCOMPLETE

    # @return [Symbol] :available, :unavailable or :incomplete (something the merchant has not said yet)
    attr_reader :status
    # @return [Money, nil] only where it is available
    attr_reader :price
    # @return [Array<Cause>] all of them, where it is not available
    attr_reader :causes
    # @return [Array<Symbol>] facts that the cart does not carry and that may change the price
    attr_reader :provisional

    # @param program [Program]
    # @param visit [Visit]
    # @param worked [Program::Worked]
    def initialize(program, visit, worked)
      @program = program
      @visit = visit
      @worked = worked
      @causes = worked.causes
      @status = @causes.empty? ? :available : unavailable
      @price = Money.new(worked.price, program.store.currency) if @causes.empty?
      @provisional = worked.provisional
    end

    # @return [String] id of the method
    def method_id = @program.rate.method_id

    # @return [String] id of the rate
    def rate = @program.rate.id

    def code = @program.shipping_method.code
    def promise = @program.shipping_method.promise

    # @return [String] what the shopper reads
    def name = @worked.name

    # @return [Array<Outcome>] of the offers that name it
    def outcomes = @worked.settled.outcomes

    # @return [Array<String>] that rules attach
    def messages = @worked.messages

    # @return [Array<Symbol>] those of the provisional facts that may make it free, or stop it being free
    def freeing = @worked.freeing

    # @return [Boolean]
    def available? = status == :available

    # @return [Money, nil] what it costs the merchant, nil where that is not said
    def cost
      return @cost if defined?(@cost)

      @cost = @program.cost(@visit, @worked)
    end

    # @return [Money, nil] what the merchant is left with of the price, where the cost is known
    def left = price && cost && (price - cost)

    # @return [Array<Offer>] those that took something off
    def acted = @worked.settled.acted

    # @return [Array<ReckoningStep>]
    def reckoning = @reckoning ||= @program.reckoning(@visit)

    # @return [Arrival, nil] nil where that is not known
    def arrival
      return @arrival if defined?(@arrival)

      @arrival = @program.arrival(@visit, @worked)
    end

    # @return [Array(Date, Date), nil] the first and the last day
    def arrives = arrival&.dates

    # @return [Array(Integer, Integer), nil] least and most business days
    def days = arrival&.days

    # @return [Array(Money, Boolean), nil] what is due at the border, and whether it is included
    def duty = @program.duty(@visit, @worked)

    # @return [Integer, nil] age in seconds of the carriers' answer that counts
    def live = (@worked.ordinary.age if @program.live && @worked.ordinary)

    # @return [Boolean] whether carriers have a part in it
    def live? = !@program.live.nil?

    # @return [Array<Symbol>] of :cheapest and :fastest
    def marks = @marks ? @marks.of(self) : []

    # @param marks [Marks] of the methods that are available beside it
    # @return [MethodQuote] the same with these marks
    def marked(marks) = dup.tap { |other| other.marks = marks }

    # @param facts [Array<Symbol>]
    # @param cause [Cause, nil] what hides it; nil where that depends on the facts
    # @return [MethodQuote] the same beside another method that is free, or may be
    def beside_free(facts, cause)
      dup.tap do |other|
        other.change(provisional: provisional | facts)
        other.change(status: :unavailable, price: nil, causes: [cause]) if cause
      end
    end

    # @param reckonings [Boolean, Array<String>]
    # @return [Hash] for JSON
    def dump(reckonings: true) = QuoteDocument.method_quote(self, reckonings: reckonings)

    def inspect = "#<#{self.class.name} #{method_id} #{status} #{price}>"

    protected

    attr_writer :marks

    def change(**parts) = parts.each { |name, value| instance_variable_set(:"@#{name}", value) }

    private

    def unavailable = causes.all? { |cause| open?(cause.code) } ? :incomplete : :unavailable

    # Where the cart goes, more of its address may bring a price; to the other zones it goes in no case.
    def open?(code) = INCOMPLETE.include?(code) || (ADDRESS.include?(code) && @visit.destination.known?)
  end
end
