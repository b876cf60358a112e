# frozen_string_literal: true

module GateMile
  # The price part of a treatment: what its goods pay.
  #
  # plus: {Money} on top for each unit that goes along with the cart, or nil; charge: {Charge} of goods priced apart
  # from it, nil where they go along; by_method: charges of single methods, by id, in its place there; together:
  # whether all units that the treatment prices count together, not only those of one product.
  class OwnPrice < Value.of(:plus, :charge, :by_method, :together)
    KINDS = %w[along apart].freeze

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [OwnPrice]
    def self.read(reader, currency)
      kind = reader.choice("kind", among: KINDS)
      price = kind == "apart" ? read_apart(reader, currency) : read_along(reader, currency)
      reader.finish if kind
      price
    end

    def self.read_along(reader, currency) = new(plus: reader.money("plus", currency, required: false))

    def self.read_apart(reader, currency)
      methods = {}
      reader.list("by_method", required: false, most: 200) do |item|
        method = item.text("method")
        item.problem("method", :twice, first: methods.keys.index(method) + 1) if methods.key?(method)
        methods[method] = item.object("charge")&.then { |charge| Charge.read(charge, currency) }
      end
      new(charge: reader.object("charge")&.then { |item| Charge.read(item, currency) }, by_method: methods,
          together: reader.flag("together", default: false))
    end
    private_class_method :read_along, :read_apart

    # @return [Boolean] whether its goods leave the ordinary calculation
    def apart? = !charge.nil?

    # @param method [String] id
    # @return [Charge] of goods priced apart
    def charge_for(method) = by_method.fetch(method, charge)

    # @return [Hash] for JSON
    def dump
      return { "kind" => "along", "plus" => plus&.to_s }.compact unless apart?

      methods = by_method.map { |method, own| { "method" => method, "charge" => own.dump } }
      { "kind" => "apart", "charge" => charge.dump, "by_method" => (methods if methods.any?), "together" => together }
        .compact
    end
  end
end
