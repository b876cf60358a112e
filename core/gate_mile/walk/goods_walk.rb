# frozen_string_literal: true

module GateMile
  # Each class alone and in pairs, and goods with treatments at every number of units that counts.
  class GoodsWalk
    # Pairs of classes, at most.
    PAIRS = 1600
    private_constant :PAIRS

    # @param book [Book]
    # @param base [Trial] an ordinary cart of a zone
    # @param treatments [Array<Treatment>] that count there
    def initialize(book, base, treatments)
      @book = book
      @base = base
      @treatments = treatments
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @return [void]
    def each(&)
      classes(&)
      @treatments.each { |treatment| treated(treatment, &) }
    end

    private

    def of_class(item) = @base.goods.first.with(name: "Goods of class #{item.name}", shipping_class: item.name)

    def classes
      setting = ->(item) { { kind: "class", id: item.id, field: "name" } }
      @book.classes.each do |item|
        yield(@base.with(goods: [of_class(item)]), { code: :class, name: item.name, setting: setting.call(item) })
      end
      @book.classes.combination(2).first(PAIRS).each do |one, other|
        yield(@base.with(goods: [of_class(one), of_class(other)]),
             { code: :classes, name: one.name, other: other.name })
      end
      @book.classes.each { |item| yield(@base.beside(of_class(item)), { code: :with_none, name: item.name }) }
    end

    def treated(treatment, &)
      skus = SomeGoodsOf.treated(@book, treatment)
      return classes_without_goods(treatment, &) if skus.empty?

      setting = { kind: "treatment", id: treatment.id, field: "price" }
      counts(treatment).each do |count|
        yield(@base.with(goods: [SomeGoods.of(skus.first, count)]),
             { code: :treated, treatment: treatment.name, name: skus.first, count: count, setting: setting })
      end
      yield(@base.beside(SomeGoods.of(skus.first, 1)),
           { code: :treated_beside, treatment: treatment.name, name: skus.first, setting: setting })
      return if skus.size < 2

      counts(treatment).first(3).each do |count|
        goods = [SomeGoods.of(skus.first, count), SomeGoods.of(skus.last, 1)]
        yield(@base.with(goods: goods),
             { code: :treated_two, treatment: treatment.name, name: skus.first, other: skus.last, count: count,
               setting: setting })
      end
    end

    # A class that has no goods yet is treated all the same: loose goods may name it.
    def classes_without_goods(treatment)
      setting = { kind: "treatment", id: treatment.id, field: "price" }
      @book.classes.select { |item| item.treatments.include?(treatment.id) }.each do |item|
        counts(treatment).each do |count|
          yield(@base.with(goods: [of_class(item).with(quantity: count)]),
               { code: :treated, treatment: treatment.name, name: item.name, count: count, setting: setting })
        end
      end
    end

    # Units at, below and above every step of its charges.
    def counts(treatment)
      charges = [treatment.price&.charge, *treatment.price&.by_method.to_h.values].compact
      steps = charges.flat_map { |charge| charge.steps.map(&:first) }
      [1, 2, *steps.flat_map { |from| [from - 1, from, from + 1] }].select(&:positive?).uniq.sort
    end
  end
end
