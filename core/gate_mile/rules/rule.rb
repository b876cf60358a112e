# frozen_string_literal: true

module GateMile
  # When something holds of a cart, then something is done to methods. name: the merchant's own; when: {Tree}; actions:
  # {Action}s, done one after the other.
  class Rule < Value.of(:id, :name, :active, :tree, :actions)
    ACTIONS = 12

    def initialize(id: nil, **)
      @setting = { kind: "rule", id: id, field: "then" }.freeze
      super
    end

    # @return [Hash] where a reckoning leads to
    attr_reader :setting

    # Without something that goes. A rule whose conditions named only that would hold of other carts: it is off from
    # then on. Actions on methods that go are taken away.
    # @param kind [String] "zone", "method", "class", "group" or "coupon"
    # @param id [String]
    # @return [Rule, nil] nil where it does nothing any more
    def without(kind, id)
      left = kind == "method" ? actions.filter_map { |action| action.without_method(id) } : actions
      return if left.empty?

      tree, lost = self.tree.without(kind, id)
      with(tree: tree, actions: left, active: active && !lost)
    end
  end
end
