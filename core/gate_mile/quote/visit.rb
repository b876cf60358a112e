# frozen_string_literal: true

module GateMile
  # A cart that comes to the rates of one zone.
  #
  # basket: {Basket}; place: {Destination}, where in the zone it goes; terms: {Terms}, what offers and rules have to do
  # with it, or nil: then neither has a part in the price; answers: by {CarrierRequest} the {Reply}, nil while carriers
  # are not asked.
  class Visit < Value.of(:basket, :destination, :terms, :answers)
    # @param terms [Terms]
    # @param destination [Destination]
    # @return [Visit]
    def self.of(terms, destination) = new(basket: terms.facts.basket, destination: destination, terms: terms)

    # @return [Clock::Reading, nil] what the store's clock shows
    def now = terms&.facts&.now
  end
end
