# frozen_string_literal: true

module GateMile
  # The classes of a plan, and what holds for everything else.
  #
  # list: {ClassPrice}s; others: {ClassPrice} or nil; unclassed: whether goods without a class belong to the others.
  class ClassPrices < Value.of(:list, :others, :unclassed)
    def initialize(list: [], **)
      @by_group = list.to_h { |item| [item&.group, item] }
      super
    end

    # @param group [String, nil] id of a class, nil for goods without one
    # @return [ClassPrice, Symbol] the code of why there is none
    def of_class(group)
      own = group && @by_group[group]
      own ||= others if group || unclassed
      return :no_class_price if own.nil?

      own.carried ? own : :not_carried
    end

    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [ClassPrices]
    def map_amounts(&change)
      with(list: list.each_with_index.map { |item, at| item.map_amounts("/classes/#{at}", &change) },
           others: others&.map_amounts("/others", &change))
    end

    # @param group [String] id of a class
    # @return [ClassPrices]
    def without(group) = with(list: list.reject { |item| item.group == group })

    # @return [Array<ClassPrice>]
    def all = [*list, *others]
  end
end
