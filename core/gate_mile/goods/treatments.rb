# frozen_string_literal: true

module GateMile
  # All treatments of a book and the classes they sit on; says which of them reach something, in the order in which they
  # are looked at: variant, product, class, and the merchant's order within one.
  class Treatments
    include Enumerable

    NONE = [].freeze
    private_constant :NONE

    # @return [Array<ShippingClass>] in the merchant's order
    attr_reader :classes

    # @param list [Array<Treatment>] in the merchant's order
    # @param classes [Array<ShippingClass>]
    def initialize(list, classes)
      @list = list
      @classes = classes
      @classes_by_name = classes.to_h { |item| [Product.fold(item.name), item] }
      @order = list.each_with_index.to_h { |treatment, index| [treatment.id, index] }
      @on_class = classes.to_h { |item| [item.id, placed(item.treatments, :class).freeze] }
      @together = {}
      freeze
    end

    # @yieldparam treatment [Treatment]
    def each(&) = @list.each(&)

    # @param name [String] as codes are compared
    # @return [ShippingClass, nil]
    def class_named(name) = @classes_by_name[Product.fold(name)]

    # @param article [Article, nil] nil for goods that are in no catalogue
    # @param shipping_class [String, nil] id of the class that counts
    # @return [Array<Placed>] the same list for all goods that the same ones reach
    def on(article, shipping_class)
      on_class = @on_class.fetch(shipping_class, NONE)
      return on_class if article.nil?

      own = article.product.treatments
      special = article.variant ? article.variant.treatments : NONE
      return on_class if own.empty? && special.empty?

      # By a text, which is looked up in one step whoever else looks: docs/decisions/0049-shared-lookups.md.
      @together[[special, own, [shipping_class]].map { |ids| ids.join("\n") }.join("\n\n")] ||=
        (placed(special, :variant) + placed(own, :product) + on_class).freeze
    end

    private

    def placed(ids, level)
      ids.filter_map { |id| @order[id] }.sort.map { |at| Placed.new(treatment: @list[at], level: level) }
    end
  end
end
