# frozen_string_literal: true

module GateMile
  # What an offer says to shoppers, held against what it does: "over" where it means "at least", another amount than its
  # threshold.
  class OfferTexts
    # An amount as texts write one: with its currency or unit, bare, or by the placeholder.
    FIGURE = /\{threshold\}|[£$€¥]?\s?\d/
    # Words by which a text says "more than" where the offer means "at least": they stand before an amount, so that
    # "all over the country" and "hand over" say nothing of it (English; common practice, no source).
    MORE = /(?:more|greater|higher|larger|heavier) than/i
    THAN = /over|above|beyond|past|exceed\w*|in excess of|upwards? of|north of|#{MORE}/i
    # What may stand between the word and the amount: "over an order value of £75".
    OF = /(?:an? )?(?:(?:order|cart|basket|total|value|subtotal|spend)s? (?:value )?(?:of )?)?/i
    OVER = /(?<!all )\b(?:#{THAN}) #{OF}(?:#{FIGURE})/i
    # An amount of money in a text.
    MONEY = /[£$€]\s?(\d+(?:[.,]\d{1,2})?)|(\d+(?:[.,]\d{1,2})?)\s?[£$€]/
    private_constant :FIGURE, :MORE, :THAN, :OF, :OVER, :MONEY

    # @param book [Book]
    # @param offer [Offer]
    def initialize(book, offer)
      @currency = book.currency
      @offer = offer
      @texts = { **(offer.milepost ? offer.milepost.texts : {}), "label" => offer.label.to_s }
    end

    # @return [Array<Finding>]
    def list = @offer.threshold ? over + amounts : []

    private

    def finding(code, harm, moment, **numbers)
      Finding.new(code: code, harm: harm, setting: { kind: "offer", id: @offer.id },
                  numbers: { offer: @offer.name, moment: moment, text: @texts[moment], **numbers })
    end

    def from = @offer.threshold.from.text

    # "Over" where the offer means "at least".
    def over
      found = @texts.select { |_, text| text.gsub(/\s+/, " ").match?(OVER) }
      found.keys.map { |moment| finding(:milepost_over, :note, moment, measure: @offer.threshold.measure, from: from) }
    end

    # Texts that name another amount of money than the threshold, or than what the offer makes of a price.
    def amounts
      return [] unless @offer.threshold.measure == "value"

      @texts.filter_map do |moment, text|
        figure = text.scan(MONEY).flatten.compact.find { |one| !right.include?(minor(one)) }
        finding(:text_amount, :warning, moment, figure: figure, from: from) if figure
      end
    end

    def right
      @right ||= [@offer.threshold.from, @offer.threshold.below].compact.map(&:base) +
                 [@offer.effect.amount, @offer.effect.most].compact.map(&:minor)
    end

    def minor(text) = (text.tr(",", ".").to_r * (10**@currency.exponent)).to_i
  end
end
