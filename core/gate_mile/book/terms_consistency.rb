# frozen_string_literal: true

module GateMile
  # The same for offers and rules: whatever they name must be there.
  class TermsConsistency
    LISTS = { zone: :zones, method: :methods, class: :classes, group: :groups, coupon: :coupons }.freeze
    private_constant :LISTS

    # @param reader [Reader]
    # @param parts [Hash{Symbol => Object}]
    def initialize(reader, parts)
      @reader = reader
      @known = LISTS.transform_values { |list| (parts[list] || parts[:policies][list]).to_set(&:id) }
      @policies = parts[:policies]
    end

    # @return [void] notes problems on the reader
    def check
      @policies.offers.each_with_index { |offer, at| offer(offer, [:offers, at]) }
      @policies.rules.each_with_index { |rule, at| rule(rule, [:rules, at]) }
    end

    private

    def offer(offer, path)
      { zone: %i[zones zones], method: %i[method_ids methods],
        coupon: %i[coupons coupons] }.each do |kind, (field, key)|
        all(kind, offer[field], [*path, key])
      end
      groups(offer.groups, [*path, :groups])
      %i[blocking paying].each { |key| all(:class, offer[key]&.classes, [*path, key, :classes]) }
      milepost(offer, [*path, :milepost])
    end

    def rule(rule, path)
      tree(rule.tree, [*path, :when])
      rule.actions.each_with_index { |action, at| all(:method, action.method_ids, [*path, :then, at, :methods]) }
    end

    def groups(choice, path)
      %i[only except].each { |key| all(:group, choice[key], [*path, key]) } if choice
    end

    # A milepost can only be narrowed: it speaks where the offer holds.
    def milepost(offer, path)
      post = offer.milepost or return
      all(:zone, post.zones, [*path, :zones])
      all(:group, post.groups, [*path, :groups])
      wider(post.zones, [*path, :zones]) { |id| offer.in_zone?(id) }
      wider(post.groups, [*path, :groups]) { |id| offer.groups.nil? || offer.groups.include?(id) }
    end

    def wider(ids, path)
      ids&.each_with_index { |id, at| @reader.problem([*path, at], :wider_than_offer) unless yield(id) }
    end

    def tree(tree, path)
      tree.parts.each_with_index do |part, at|
        here = [*path, tree.of, at]
        next tree(part, here) if part.is_a?(Tree)

        all(part.fact.to_sym, part.of, [*here, :of]) if LISTS.key?(part.fact.to_sym)
      end
    end

    def all(kind, ids, path)
      ids&.each_with_index { |id, at| @reader.problem([*path, at], :unknown_id) unless @known[kind].include?(id) }
    end
  end
end
