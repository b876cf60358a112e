# frozen_string_literal: true

module GateMile
  # Goods that stand for all others when an audit quotes: of those that the same class and treatments reach, the
  # lightest and the heaviest.
  class CaseGoods
    # Kinds that are looked at, at most.
    MOST = 60

    # @return [Array<Article>]
    attr_reader :list

    # @param book [Book]
    def initialize(book)
      @book = book
      @list = Alone.alike(book).first(MOST).flat_map { |articles| ends(articles) }.freeze
    end

    # @return [Array<Article>] of which some treatment restricts how they travel
    def restricted
      list.select { |article| placed(article).any? { |one| one.treatment.active && one.treatment.restricts? } }
    end

    # @return [Array<Object>] equal as long as the goods are the same
    def key = list.map { |article| [article.sku, article.product] }

    private

    def placed(article) = @book.treatments.on(article, article.shipping_class)

    def ends(articles)
      weighed = articles.select(&:weight)
      return articles.first(1) if weighed.empty?

      weighed.minmax_by { |article| article.weight.base }.uniq
    end
  end
end
