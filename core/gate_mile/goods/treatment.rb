# frozen_string_literal: true

module GateMile
  # How goods leave the ordinary rates. It sits on any number of variants, products and classes, which name it.
  #
  # zones, methods: ids that it is limited to, nil for all; price: {OwnPrice} or nil; only: ids of the methods its goods
  # may travel by, nil for any; never: ids of those they may not.
  class Treatment < Value.of(:id, :name, :active, :zones, :methods, :price, :only, :never)
    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Treatment]
    def self.read(reader, currency)
      travel = reader.object("travel", required: false)
      new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
          zones: limit(reader, "zones"), methods: limit(reader, "methods"),
          price: reader.object("price", required: false)&.then { |item| OwnPrice.read(item, currency) },
          only: (travel.texts("only", most: 500) if travel&.given?("only", read: true)),
          never: travel ? travel.texts("never", most: 500) : []).tap { travel&.finish }
    end

    def self.limit(reader, key)
      return unless reader.given?(key, read: true)

      reader.texts(key, most: 500).tap { |ids| reader.problem(key, :limit_empty) if ids.empty? }
    end
    private_class_method :limit

    # @param zone [String] id
    # @param method [String] id
    # @return [Boolean] whether it says anything there
    def applies?(zone, method)
      active && (zones.nil? || zones.include?(zone)) && (methods.nil? || methods.include?(method))
    end

    # @param zone [String] id
    # @param method [String] id
    # @return [Boolean] whether its goods may not travel by the method there
    def bars?(zone, method)
      applies?(zone, method) && (never.include?(method) || !(only.nil? || only.include?(method)))
    end

    # @return [Boolean] whether it restricts how its goods travel
    def restricts? = !only.nil? || never.any?

    # @return [Hash] for JSON
    def dump
      travel = { "only" => only, "never" => (never if never.any?) }.compact
      { "id" => id, "name" => name, "active" => active, "zones" => zones, "methods" => methods,
        "price" => price&.dump, "travel" => (travel if travel.any?) }.compact
    end
  end

  # A treatment where it sits: level is :variant, :product or :class.
  class Placed < Value.of(:treatment, :level)
  end
end
