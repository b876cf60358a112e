# frozen_string_literal: true

module GateMile
  # Goods that are like what a setting asks for.
  module SomeGoodsOf
    class << self
      # @param book [Book]
      # @param choice [GoodsChoice]
      # @param like [SomeGoods] in all that is not asked for
      # @return [Array<SomeGoods>] one for each class, tag and SKU that it names, and for the hazard mark
      def choice(book, choice, like)
        named = choice.classes.to_a.filter_map { |id| book.classes.find { |one| one.id == id }&.name }
        [*named.map { |name| like.with(name: "Goods of class #{name}", shipping_class: name) },
         *choice.tags.to_a.map { |tag| like.with(name: "Goods with the tag #{tag}", tags: [tag]) },
         *choice.skus.to_a.select { |sku| book.catalogue[sku] }.map { |sku| SomeGoods.of(sku, 1) },
         *(choice.hazardous ? [like.with(name: "Hazardous goods", hazardous: true)] : [])]
      end

      # @param book [Book]
      # @param treatment [Treatment]
      # @return [Array<String>] SKUs of products that it sits on, two at most
      def treated(book, treatment)
        found = book.catalogue.articles.lazy.select do |article|
          article.ships && (article.variant || article.product.variants.empty?) &&
            book.treatments.on(article, article.shipping_class).any? { |one| one.treatment.equal?(treatment) }
        end
        found.first(2).map(&:sku)
      end
    end
  end
end
