# frozen_string_literal: true

module GateMile
  # How one offer stands with a cart: what its milepost says, and why it does not apply where it does not.
  #
  # state: :acted or :no_gain (reached at some method), :beaten (by another offer everywhere), :below or :over (of its
  # threshold), :unknown, :no_share, :blocked, :no_method (none that it names is available) or :not_for_them; remaining,
  # threshold, here: {Money}, {Weight} or Integer, where there is a threshold; method_ids: ids that it acted on;
  # reasons: everything against it; moment: of {Milepost}, nil for silence; sure: whether the zone is known.
  class Outlook < Value.of(:offer, :state, :remaining, :threshold, :here, :method_ids, :reasons, :moment, :sure)
    # @param store [Store]
    # @return [Money, Weight, Integer, nil] what remains, in the prices that shoppers see
    def remaining_in_prices(store) = offer.threshold&.in_prices(remaining, store)

    # @param store [Store]
    # @return [Money, Weight, Integer, nil] the threshold, in the prices that shoppers see
    def threshold_in_prices(store) = offer.threshold&.in_prices(threshold, store)
  end
end
