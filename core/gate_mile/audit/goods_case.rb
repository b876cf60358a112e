# frozen_string_literal: true

module GateMile
  # The goods part of a case: what every line of a cart has to be, and what some line has to be; finds the fewest lines
  # that do it.
  class GoodsCase
    # More "some line" conditions than this are not looked at.
    MOST = 5

    # What a line has to be and must not be: conditions on goods.
    Wish = Struct.new(:of, :not_of) do
      def &(other) = Wish.new(of + other.of, not_of + other.not_of)
    end
    private_constant :Wish

    # @param book [Book]
    # @param conditions [Array<Array(Condition::OfGoods, Boolean)>]
    def initialize(book, conditions)
      @book = book
      @every = Wish.new([], [])
      @some = []
      conditions.each { |condition, wanted| sort(condition, wanted) }
    end

    # @return [Array<Hash>, Symbol] fields of the cart's lines; :none where no goods are like that, :unknown where there
    #   are too many conditions to look at
    def lines
      return :none unless @some.all? { |wish| line(@every & wish) }
      return :unknown if @some.size > MOST

      partitions(@some.empty? ? [Wish.new([], [])] : @some).sort_by(&:size).each do |groups|
        found = groups.map { |wishes| line(wishes.inject(@every) { |one, other| one & other }) }
        return found if found.all?
      end
      :none
    end

    private

    def sort(condition, wanted)
      wish = wanted ? Wish.new([condition], []) : Wish.new([], [condition])
      # "Any is" and "not every is" need one line; "every is" and "not any is" bind all.
      (condition.lines == "any") == wanted ? @some << wish : @every &= wish
    end

    # All ways to put things into groups.
    def partitions(list)
      return [[]] if list.empty?

      first, *rest = list
      partitions(rest).flat_map do |groups|
        [[[first]] + groups] + groups.each_index.map do |at|
          groups[0...at] + [[first] + groups[at]] + groups[(at + 1)..]
        end
      end
    end

    # @return [Hash, nil] a line that is like that
    def line(wish)
      named = of_fact(wish.of, "product")
      return free_line(wish) if named.empty?

      named.first.of.lazy.flat_map { |sku| articles(sku) }.filter_map { |item| named_line(item, wish) }.first
    end

    # @return [Array<String>, nil] values that every "of" names and no "not of" does; nil where any will do
    def allowed(wish, fact)
      lists = of_fact(wish.of, fact).map(&:of)
      return if lists.empty?

      lists.inject { |one, other| one.select { |value| other.any? { |its| same?(value, its) } } }
    end

    def of_fact(conditions, fact) = conditions.select { |condition| condition.fact == fact }
    def same?(one, other) = Product.fold(one) == Product.fold(other)

    # A product's SKU stands for its variants too; one that is in no catalogue for itself.
    def articles(sku)
      article = @book.catalogue[sku] or return [sku]
      return [article] if article.variant

      variants = article.product.variants.map { |variant| @book.catalogue[variant.sku] }
      variants.any? ? variants : [article]
    end

    def named_line(item, wish)
      return uncatalogued(item, wish) if item.is_a?(String)

      seen = GoodsKind.of(item.sku, item.product.sku, item.shipping_class, item.tags, item.hazardous)
      { "sku" => item.sku } if item.ships && fits?(seen, wish)
    end

    # Goods of a SKU that is in no catalogue: all but the SKU is open.
    def uncatalogued(sku, wish)
      products, others = [wish.of, wish.not_of].map { |list| list.partition { |one| one.fact == "product" } }.transpose
      seen = GoodsKind.of(sku, sku, nil, [], false)
      return unless fits?(seen, Wish.new(*products))

      free_line(Wish.new(*others))&.except("name")&.merge("sku" => sku)
    end

    def fits?(seen, wish) = wish.of.all? { |one| one.include?(seen) } && wish.not_of.none? { |one| one.include?(seen) }

    # Goods that are in no catalogue can be anything.
    def free_line(wish)
      return if of_fact(wish.of, "product").any?

      hazard = [wish.of, wish.not_of].map { |list| of_fact(list, "hazard").any? }
      shipping_class = class_of(wish)
      tags = tags_of(wish)
      return if hazard.all? || shipping_class == :none || tags == :none

      { "name" => "Any goods", "class" => shipping_class, "tags" => tags, "hazardous" => hazard.first }
    end

    def class_of(wish)
      wanted = allowed(wish, "class")
      return if wanted.nil?

      barred = of_fact(wish.not_of, "class").flat_map(&:of)
      id = (wanted - barred).first
      id ? @book.classes.find { |item| item.id == id }.name : :none
    end

    # One tag for each condition that wants one.
    def tags_of(wish)
      barred = of_fact(wish.not_of, "tag").flat_map(&:of)
      of_fact(wish.of, "tag").map do |condition|
        condition.of.find { |tag| barred.none? { |other| same?(tag, other) } } or return :none
      end.uniq
    end
  end
end
