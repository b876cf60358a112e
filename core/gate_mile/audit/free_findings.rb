# frozen_string_literal: true

module GateMile
  # Goods without a class, or without a price, that a rate carries for nothing though it charges for others: a zero that
  # nobody chose for them.
  class FreeFindings
    # @param book [Book]
    def initialize(book)
      @book = book
      @alone = Alone.new(book)
      goods = Alone.goods(book)
      @loose, @others = goods.partition { |article| loose?(article) }
    end

    # @return [Array<Finding>]
    def list
      return [] if @loose.empty? || @others.empty?

      @book.rates_in_use.select(&:plan).filter_map { |rate| of(rate) }
    end

    private

    def loose?(article)
      article.price.nil? || article.price.zero? || (@book.classes.any? && article.shipping_class.nil?)
    end

    def of(rate)
      free = kinds.select { |articles| free?(rate, articles.first) }.flatten(1)
      return if free.empty? || @others.first(GoodsFindings::SHOWN).all? { |article| free?(rate, article) }

      Finding.new(code: :free_unpriced, harm: :problem, zone: rate.zone, setting: { kind: "rate", id: rate.id },
                  numbers: { rate: rate.name || @book.shipping_method(rate.method_id).name, count: free.size,
                             names: free.first(GoodsFindings::SHOWN).map(&:name) })
    end

    # Goods that are the same in all that a rate looks at pay the same.
    def kinds = @kinds ||= @loose.group_by { |article| like(article) }.values

    def like(article)
      [article.shipping_class, article.product.treatments, article.variant&.treatments, article.price, article.weight,
       article.size, article.tax_class, article.hazardous]
    end

    # By the plan: an own price of nothing was chosen.
    def free?(rate, article)
      found = @alone.quote(rate, article)
      found.price&.zero? && found.reckoning.none? { |step| step.code == :"treated.apart" }
    end
  end
end
