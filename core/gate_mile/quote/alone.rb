# frozen_string_literal: true

module GateMile
  # Goods priced by themselves, as the audit and the tables look at them: so many units of one article in an otherwise
  # empty cart, that goes to wherever the rate is for.
  class Alone
    # @param book [Book]
    # @return [Array<Article>] all that a cart can hold and that needs shipping: variants rather than their product
    def self.goods(book)
      book.catalogue.articles.select { |article| article.ships && (article.variant || article.product.variants.empty?) }
    end

    # @param book [Book]
    def initialize(book)
      @book = book
      @baskets = {}
    end

    # @param rate [Rate]
    # @param article [Article]
    # @return [MethodQuote] for one unit, by all that holds for it
    def quote(rate, article)
      Pipeline.run(@book, basket(article, 1), rate, nil, Destination::SOMEWHERE)
    end

    # @param rate [Rate] with a plan
    # @param article [Article]
    # @param units [Integer]
    # @return [Money, Refusal] what the plan says, as if no treatment sat on the goods
    def ordinary(rate, article, units = 1)
      bare = basket(article, units).lines.map { |line| line.with(treatments: [], ships: true) }
      plain = Basket.of_lines(bare, @book.store)
      found = rate.plan.price(plain.shipping, plain, Destination::SOMEWHERE)
      found.amount || found.refusals.first
    end

    private

    def basket(article, units)
      @baskets[[article.sku, units]] ||= begin
        line = CartLine.new(sku: article.sku, quantity: units)
        Basket.of(Cart.of(lines: [line]), @book)
      end
    end
  end
end
