# frozen_string_literal: true

module GateMile
  # Why a method is not available: a code of what stands in the way, what belongs to it, and the setting at which it can
  # be mended.
  class Cause
    # @return [Symbol]
    attr_reader :code
    # @return [Hash, nil] `{ kind:, id:, field: }`
    attr_reader :setting

    # @param refusal [Refusal]
    # @param setting [Hash]
    # @return [Cause]
    def self.of(refusal, setting) = new(refusal.code, setting) { refusal.numbers }

    # @param code [Symbol]
    # @param setting [Hash, nil]
    # @yieldreturn [Hash] the numbers that belong to it, put together when somebody asks for them
    def initialize(code, setting = nil, &numbers)
      @code = code
      @setting = setting
      @work = numbers
    end

    # @return [Hash]
    def numbers = @numbers ||= @work ? @work.call : {}
  end
end
