# frozen_string_literal: true

module GateMile
  # One line of a reckoning.
  #
  # step: the step of the pipeline; code: what happened; numbers: what went in; amount: the {Money} that came out,
  # or nil; setting: what caused it, `{ kind:, id:, field: }`, or nil.
  class ReckoningStep < Value.of(:step, :code, :numbers, :amount, :setting)
  end
end
