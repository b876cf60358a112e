# frozen_string_literal: true

module GateMile
  # Which of a cart's values counts: after discounts or before; with tax or without; of all lines, of those that ship,
  # or of the ordinary ones.
  class Basis < Value.of(:discounts, :tax, :lines)
    CHOICES = { "discounts" => %w[after before], "tax" => %w[with without],
                "lines" => %w[shipping all ordinary] }.freeze

    # @param reader [Reader]
    # @param lines [String] which lines count where nothing is said
    # @return [Basis] else the first choice of each where nothing is said
    def self.read(reader, lines: CHOICES["lines"].first)
      chosen = CHOICES.to_h do |key, among|
        [key.to_sym, reader.choice(key, among: among, default: key == "lines" ? lines : among.first)]
      end
      reader.finish
      new(**chosen)
    end

    DEFAULT = new(**CHOICES.to_h { |key, among| [key.to_sym, among.first] })

    # @return [Hash] for JSON
    def dump = to_h.transform_keys(&:to_s)
  end
end
