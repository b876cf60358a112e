# frozen_string_literal: true

module GateMile
  # Goods priced by themselves, as the audit and the tables look at them: so many units of one article in an otherwise
  # empty cart, that goes to wherever the rate is for.
  class Alone
    # @param book [Book]
    # @return [Array<Article>] all that a cart can hold and that needs shipping: variants rather than their product
    def self.goods(book)
      book.catalogue.once(:alone) do
        book.catalogue.articles.select do |article|
          article.ships && (article.variant || article.product.variants.empty?)
        end.freeze
      end
    end

    # @param book [Book]
    # @return [Array<Array<Article>>] the same, by what treatments may reach them: their class and their own
    def self.alike(book)
      book.catalogue.once(:alike) do
        goods(book).group_by do |article|
          [article.shipping_class, article.product.treatments, article.variant&.treatments]
        end.values.freeze
      end
    end

    # @param book [Book]
    # @param articles [Array<Article>]
    # @return [Array<Article>] in the order of the catalogue
    def self.in_order(book, articles)
      places = book.catalogue.once(:places) do
        goods(book).each_with_index.with_object({}.compare_by_identity) { |(article, at), all| all[article] = at }
      end
      articles.sort_by { |article| places.fetch(article) }
    end

    # @param book [Book]
    # @param most [Integer]
    # @return [Array<Article>] of these, from the lightest to the heaviest, so many at most; those without a weight are
    #   left out
    def self.sample(book, most)
      weighed = book.catalogue.once(:weighed) do
        goods(book).select(&:weight).sort_by { |article| article.weight.base }.freeze
      end
      return weighed if weighed.size <= most

      Array.new(most) { |at| weighed[at * (weighed.size - 1) / (most - 1)] }
    end

    # @param book [Book]
    def initialize(book)
      @book = book
      @baskets = {}
    end

    # @param rate [Rate]
    # @param article [Article]
    # @return [MethodQuote] for one unit, by all that holds for it
    def quote(rate, article) = @book.program(rate).quote(visit(basket(article)))

    # @param rate [Rate] with a plan
    # @param article [Article]
    # @param units [Integer]
    # @return [Money, Refusal] what the plan says, as if no treatment sat on the goods
    def ordinary(rate, article, units = 1)
      bare = basket(article, units).lines.map { |line| line.of(treatments: [], ships: true) }
      plain = Basket.new(bare, @book.store)
      found = @book.program(rate).plan.price(plain.shipping, plain, Destination::SOMEWHERE)
      found.minor ? Money.new(found.minor, @book.currency) : found.refusals.first
    end

    # @param article [Article]
    # @param units [Integer]
    # @return [Basket]
    def basket(article, units = 1)
      @baskets[[article.sku, units]] ||= begin
        line = CartLine.new(sku: article.sku, quantity: units)
        Basket.of(Cart.of(lines: [line]), @book)
      end
    end

    private

    def visit(basket) = Visit.new(basket: basket, destination: Destination::SOMEWHERE)
  end
end
