# frozen_string_literal: true

module GateMile
  # A cart that a walk proposes: it tells something apart from what stands beside it.
  #
  # cart: its document; at: a moment on the store's clock, nil for whenever; reasons: hashes of a code and what belongs
  # to it, the first the one for which it was made.
  class Proposal < Value.of(:cart, :at, :reasons)
  end
end
