# frozen_string_literal: true

module GateMile
  # A cart that a walk proposes: it tells something apart from what stands beside it.
  #
  # cart: its document; at: a moment on the store's clock, nil for whenever; reasons: hashes of a code and what belongs
  # to it, the first the one for which it was made; carriers: what they are supposed to say, one of {MadeUp::KINDS}, or
  # nil for what they say.
  class Proposal < Value.of(:cart, :at, :reasons, :carriers)
    # @return [MadeUp, nil] the carriers' port that says it
    def port = carriers && MadeUp.new(carriers)
  end
end
