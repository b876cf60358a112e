# frozen_string_literal: true

module Server
  # A quote worked out again from what was kept of it: its release, cart and moment, and what carriers said then.
  class Evidence
    class << self
      # @param content [QuoteSeal::Content]
      # @param book [GateMile::Book] of its release
      # @return [Evidence]
      def of_quote(content, book) = new(book, content.cart, content.at, content.recorded)

      # @param order [Records::Order] with a cart
      # @param book [GateMile::Book] of its release
      # @return [Evidence]
      def of_order(order, book) = new(book, order.cart, order.quoted_at, order.recorded)
    end

    # @param book [GateMile::Book]
    # @param cart [Hash] a cart document
    # @param at [Time]
    # @param recorded [Object, nil] documents of what carriers said
    def initialize(book, cart, at, recorded)
      @book = book
      @cart = cart
      @at = at
      @recorded = recorded
    end

    # @return [GateMile::Quote]
    def quote = @quote ||= @book.quote(GateMile::Cart.parse(@cart, @book.currency), at: @at, carriers: port)

    # @param code [String]
    # @return [GateMile::MethodQuote, nil] nil where it was not offered
    def offered(code) = quote.method_quotes.find { |one| one.available? && one.code == code }

    # @return [String] id of the zone in which the cart landed
    def zone = quote.landing.zone.id

    # @return [String] ISO 4217
    def currency = @book.currency.code

    private

    def port
      reader = GateMile::Reader.open({ "recorded" => @recorded }.compact)
      setting = GateMile::Setting.new(@book.currency, @book.store.time_zone)
      GateMile::ProofForms::RecordedForm.read(reader, setting).port
    end
  end
end
