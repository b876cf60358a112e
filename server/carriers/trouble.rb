# frozen_string_literal: true

module Server
  module Carriers
    # Raised where there is no answer of a carrier to read. status: what it is taken for, :silent, :refused or
    # :unusable; said: what the carrier said, or why there is none; own: whether the carrier has no part in it.
    class Trouble < StandardError
      attr_reader :status, :said

      def initialize(status, said, own: false)
        @status = status
        @said = said
        @own = own
        super(said)
      end

      # @return [Boolean]
      def own? = @own
    end
  end
end
