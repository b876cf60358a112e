# frozen_string_literal: true

module Server
  # What a shop's page shows of the offers: texts as the merchant wrote them, and what their placeholders stand for.
  module Mileposts
    class << self
      # @param book [GateMile::Book]
      # @param cart [GateMile::Cart]
      # @param at [Time]
      # @return [Hash] MilepostState of the contract
      def of(book, cart, at:)
        { currency: book.currency.code, mileposts: said(book, book.quote(cart, at: at)) }
      end

      # @param book [GateMile::Book]
      # @param quote [GateMile::Quote]
      # @return [Array<Hash>] those that say something to this cart
      def said(book, quote)
        quote.outlooks.select(&:moment).map { |outlook| milepost(book, quote, outlook) }
      end

      private

      def milepost(book, quote, outlook)
        post = outlook.offer.milepost
        { offer: outlook.offer.id, moment: outlook.moment, text: post.texts.fetch(outlook.moment),
          values: values(book, quote, outlook), closable: post.closable, link: post.link, pages: post.pages,
          sure: outlook.sure }
      end

      def values(book, quote, outlook)
        zone = zone_of(book, outlook.offer, quote.landing&.zone)
        { remaining: amount(outlook.remaining_in_prices(book.store)),
          threshold: amount(outlook.threshold_in_prices(book.store)), zone: text(zone&.name),
          method: text(method_name(book, outlook)) }.compact
      end

      # Where the shopper is, if the offer holds there; else the first place where it does.
      def zone_of(book, offer, here)
        here && offer.in_zone?(here.id) ? here : offer.zones && book.zone(offer.zones.first)
      end

      # What the shopper would choose: the first that it acts on, or that it names.
      def method_name(book, outlook)
        id = outlook.method_ids.first || outlook.offer.method_ids&.first
        found = id ? book.shipping_method(id) : book.methods_in_order.first
        found&.name
      end

      def amount(value)
        case value
        when nil then nil
        when GateMile::Money then { kind: "money", value: value.to_s }
        when GateMile::Weight then { kind: "measure", value: value.to_s }
        else text(value)
        end
      end

      def text(value) = value && { kind: "text", value: value.to_s }
    end
  end
end
