# frozen_string_literal: true

module GateMile
  # Brings the lines of a cart together with what the book knows of their goods.
  class Lines
    NONE = [].freeze
    private_constant :NONE

    # @param cart [Cart]
    # @param book [Book]
    def initialize(cart, book)
      @book = book
      @store = book.store
      @sent = cart.lines
      @articles = @sent.map { |line| line.sku && book.catalogue[line.sku] }
      @order_discount = cart.order_discount
    end

    # @return [Array<Line>]
    def all
      worths = self.worths
      @sent.each_index.map { |at| line(at, worths[at]) }
    end

    private

    # What goods are of which nobody says anything.
    UNKNOWN = Product.new(ships: true, tags: NONE, hazardous: false, packing: Product::PACKING.first)
    private_constant :UNKNOWN

    def line(at, worth)
      sent = @sent[at]
      article = @articles[at]
      known = article || UNKNOWN
      shipping_class, unknown = class_of(sent, known)
      Line.new(sku: sent.sku, name: sent.name || known.name, quantity: sent.quantity, unit_price: unit_price(at),
               **worth(worth),
               weight: (sent.weight || known.weight)&.*(sent.quantity), size: sent.size || known.size,
               ships: said(sent.ships, known.ships), shipping_class: shipping_class, tags: sent.tags || known.tags,
               hazardous: said(sent.hazardous, known.hazardous), kin: kin(sent, article, at),
               goods: goods(sent, at),
               treatments: @book.treatments.on(article, shipping_class), unknown: unknown, packing: known.packing)
    end

    def worth(worth) = { worth: worth, value: worth&.in(@store.basis), known: !worth.nil? }

    def said(flag, otherwise) = flag.nil? ? otherwise : flag

    # All variants of a product, and all lines of one SKU, count as one product.
    def kin(sent, article, at) = article ? article.product.sku : (sent.sku && Product.fold(sent.sku)) || at

    def goods(sent, at) = sent.sku ? Product.fold(sent.sku) : at

    # @return [Array(String, Array<String>)] the class that counts, and what the line names and the book has not
    def class_of(sent, known)
      found = sent.shipping_class && @book.class_named(sent.shipping_class)
      return [sent.shipping_class ? found&.id : known.shipping_class, NONE] if known?(sent, found)

      tax = sent.tax_class && @store.tax_class_named(sent.tax_class).nil?
      [found&.id, [("class" if sent.shipping_class && found.nil?), ("tax_class" if tax)].compact]
    end

    def known?(sent, found)
      (sent.shipping_class.nil? || found) && (sent.tax_class.nil? || @store.tax_class_named(sent.tax_class))
    end

    def unit_price(at) = @sent[at].unit_price || @articles[at]&.price

    # @return [Array<LineValue, nil>] nil where a line has no price
    def worths
      before = @sent.each_index.map { |at| unit_price(at)&.then { |price| price * @sent[at].quantity } }
      after = before.each_with_index.map { |amount, at| amount && less(amount, @sent[at].discount) }
      spread(after).each_with_index.map do |amount, at|
        amount && LineValue.new(before: before[at], after: amount, rate: tax(at), with_tax: @store.prices_include_tax)
      end
    end

    # A line gives away no more than it is worth.
    def less(amount, discount) = discount ? amount - [discount, amount].min : amount

    def spread(amounts)
      return amounts if @order_discount.nil? || @order_discount.zero?

      shares = LineValue.spread(@order_discount.minor, amounts.map { |amount| amount ? amount.minor : 0 })
      amounts.zip(shares).map { |amount, share| amount && Money.new(amount.minor - share, amount.currency) }
    end

    def tax(at)
      named = @sent[at].tax_class
      found = named ? @store.tax_class_named(named) : @store.tax_class(@articles[at]&.tax_class)
      (found || @store.tax_classes.first)&.rate || Percentage::NONE
    end
  end
end
