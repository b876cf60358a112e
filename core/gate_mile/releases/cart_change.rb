# frozen_string_literal: true

module GateMile
  # Something that changes for carts between two books: these methods cost something else, come or go.
  #
  # zone: id of the zone in which the cart lands, nil for none; methods: {MethodChange}s; text: what the shopper is told
  # where nothing can be chosen, before and after, or nil where that stays; cart: the first that shows it, its document;
  # at: a moment on the store's clock, nil for whenever; reasons: why a walk proposed that cart, empty for a proof;
  # count: how many carts show the same; proofs: names of those among them that are kept.
  class CartChange < Value.of(:zone, :methods, :text, :cart, :at, :reasons, :count, :proofs)
    # One method. code; name; before, after: {Money}, nil where it is not offered.
    class MethodChange < Value.of(:code, :name, :before, :after)
      # @return [Array] in order of how much it matters: what goes, what comes, what costs more, what costs less
      def weight
        return [after ? 2 : 3, 0] if before.nil? || after.nil?

        [1, (after - before).minor.abs]
      end
    end

    # @return [Array] the larger the more it matters
    def weight = [*methods.map(&:weight).max || [0, 0], count]

    # @return [Hash] for JSON
    def dump
      { "zone" => zone, "text" => text, "cart" => cart, "at" => at, "reasons" => reasons.map { |one| Plain.of(one) },
        "count" => count, "proofs" => proofs,
        "methods" => methods.map do |one|
          { "code" => one.code, "name" => one.name, "before" => one.before&.to_s, "after" => one.after&.to_s }
        end }
    end
  end
end
