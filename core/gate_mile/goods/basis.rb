# frozen_string_literal: true

module GateMile
  # Which of a cart's values counts: after discounts or before; with tax or without; of all lines, of those that ship,
  # or of the ordinary ones. The store's says all three; one of a plan, an offer or a rule may leave some to the store's
  # (nil).
  class Basis < Value.of(:discounts, :tax, :lines)
    CHOICES = { "discounts" => %w[after before], "tax" => %w[with without],
                "lines" => %w[shipping all ordinary] }.freeze

    class << self
      # @param reader [Reader]
      # @return [Basis] a whole one: the first choice of each where nothing is said
      def read(reader) = own(reader).over(DEFAULT)

      # @param reader [Reader]
      # @return [Basis] what it says, the rest nil
      def own(reader)
        chosen = CHOICES.to_h do |key, among|
          [key.to_sym, reader.given?(key, read: true) ? reader.choice(key, among: among) : nil]
        end
        reader.finish
        new(**chosen)
      end
    end

    def initialize(discounts: nil, tax: nil, lines: nil)
      @over = {}.compare_by_identity
      super
    end

    DEFAULT = new(**CHOICES.to_h { |key, among| [key.to_sym, among.first] })

    # @param whole [Basis] a whole one
    # @return [Basis] this one, with the other's choices where it says nothing: the same object each time
    def over(whole)
      return self if discounts && tax && lines

      @over[whole] ||= whole.with(**to_h.compact)
    end

    # @return [Hash] for JSON
    def dump = to_h.transform_keys(&:to_s).compact
  end
end
