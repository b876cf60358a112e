# frozen_string_literal: true

module GateMile
  # One line of a reckoning.
  #
  # step: the step of the pipeline; code: what happened; numbers: what went in; amount: the {Money} that came out,
  # or nil; setting: what caused it, `{ kind:, id:, field: }`, or nil.
  class ReckoningStep < Value.of(:step, :code, :numbers, :amount, :setting)
    # @return [Hash] for JSON
    def dump
      { "step" => step.to_s, "code" => code.to_s, "numbers" => Plain.of(numbers), "amount" => amount&.to_s,
        "setting" => setting && Plain.of(setting) }
    end
  end

  # Why a method is not available.
  #
  # code: what stands in the way; numbers: what belongs to it; setting: where it can be mended, or nil.
  class Cause < Value.of(:code, :numbers, :setting)
    # @return [Hash] for JSON
    def dump
      { "code" => code.to_s, "numbers" => Plain.of(numbers), "setting" => setting && Plain.of(setting) }
    end
  end

  # Turns the values of the core into what JSON knows.
  module Plain
    # @param value [Object]
    # @return [Hash, Array, String, Integer, Boolean, nil]
    def self.of(value)
      case value
      when Hash then value.to_h { |key, item| [key.is_a?(Symbol) ? key.name : key.to_s, of(item)] }
      when Symbol then value.name
      when Array then value.map { |item| of(item) }
      when String, Integer, true, false, nil then value
      else value.to_s
      end
    end
  end
end
