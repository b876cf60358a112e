# frozen_string_literal: true

module GateMile
  # Figures that are far from all of their neighbours, probably by a slip: a point that is missing, a figure too many.
  # One sign is not enough, unless it is absurd.
  class FigureFindings
    # How many neighbours a finding names.
    SHOWN = 2
    private_constant :SHOWN

    # @param book [Book]
    # @param answers [Hash{CarrierRequest => Reply}] what carriers have answered lately
    # @param paid [Hash{Array(String, String) => Array<Money>}] what orders paid lately, by zone and method
    def initialize(book, answers: {}, paid: {})
      @book = book
      @answers = answers
      @paid = paid
    end

    # @return [Array<Finding>]
    def list
      Figures.new(@book, answers: @answers, paid: @paid).list.filter_map do |figure|
        sign = figure.doubt
        finding(figure, sign) if sign
      end
    end

    private

    def finding(figure, sign)
      near = sign.near.sort_by { |minor| (minor - figure.amount.minor).abs }.first(SHOWN)
      numbers = { name: figure.name, what: figure.what, figure: figure.amount, at: figure.at && text(figure.at),
                  place: sign.place, beside: near.map { |minor| figure.amount.with_minor(minor) },
                  meant: figure.meant(sign) }
      Finding.new(code: :figure_far, harm: :warning, zone: figure.zone, numbers: numbers.compact,
                  setting: figure.setting)
    end

    # An edge or a class as it is written; a cell has no name of its own.
    def text(at) = at.is_a?(Array) ? nil : at
  end
end
