# frozen_string_literal: true

module GateMile
  # When something holds of a cart, then something is done to methods. name: the merchant's own; when: {Tree}; actions:
  # {Action}s, done one after the other.
  class Rule < Value.of(:id, :name, :active, :tree, :actions)
    ACTIONS = 12

    # @param reader [Reader]
    # @param currency [Currency, nil]
    # @return [Rule]
    def self.read(reader, currency)
      actions = reader.list("then", most: ACTIONS) { |item| Action.read(item, currency) }
      reader.problem("then", :does_nothing) if actions.empty? && reader.given?("then")
      new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
          tree: reader.object("when")&.then { |item| Tree.read(item, currency) }, actions: actions)
    end

    def initialize(id: nil, **)
      @setting = { kind: "rule", id: id, field: "then" }.freeze
      super
    end

    # @return [Hash] where a reckoning leads to
    attr_reader :setting

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active, "when" => tree.dump, "then" => actions.map(&:dump) }
    end
  end

  # What became of one rule for one cart in one zone. open: the fact that would decide, where the cart does not carry
  # it.
  class Verdict
    attr_reader :rule, :open

    # @param rule [Rule]
    # @param found [Boolean, Terms::Guess]
    # @param terms [Terms]
    def initialize(rule, found, terms)
      @rule = rule
      @terms = terms
      @open = found.fact if found.is_a?(Terms::Guess)
      @held = @open ? found.holds : found
      freeze
    end

    # @return [Boolean]
    def held? = @held

    # @return [Hash] for JSON: what was missing, in numbers
    def dump
      missing = rule.active && !held? ? rule.tree.lacks(@terms) : []
      { "rule" => rule.id, "held" => held?, "open" => open&.to_s,
        "missing" => missing.map do |condition, wanted|
          { "wanted" => wanted, "condition" => condition.dump, "here" => condition.here(@terms).to_s }
        end }
    end
  end
end
