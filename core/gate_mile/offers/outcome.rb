# frozen_string_literal: true

module GateMile
  # What became of one offer that names a method. state: :acted, :no_gain, :beaten, :below, :over, :unknown (the goods
  # do not say how much they come to) or :no_share (what goods that pay their own way would pay is not known).
  class Outcome
    # @return [Offer]
    attr_reader :offer
    # @return [Symbol]
    attr_reader :state

    # @param offer [Offer]
    # @param state [Symbol]
    # @yieldreturn [Hash] the numbers that belong to it, put together when somebody asks for them
    def initialize(offer, state, &numbers)
      @offer = offer
      @state = state
      @work = numbers
    end

    # @return [Hash] among them the offer's name
    def numbers = @numbers ||= { offer: offer.name, **(@work ? @work.call : {}) }

    # @return [Boolean] whether it took something off
    def acted? = state == :acted
  end
end
