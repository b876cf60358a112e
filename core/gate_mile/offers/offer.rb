# frozen_string_literal: true

module GateMile
  # Free or reduced shipping under conditions.
  #
  # name: the merchant's own; label: what the method is called where the offer acts and the price is what it makes of
  # it, or nil; label_more: what it is called where more than that is left to pay, or nil for its own name; threshold:
  # {Threshold} or nil; zones, methods, coupons: ids, nil for all (of coupons: none is asked for); groups: {GroupChoice}
  # or nil; promotions: "with" or "without" another one in the cart, nil where that does not matter; period: {Period};
  # first: how many orders it is for, or nil; blocking, paying: {GoodsChoice} or nil, goods that keep the cart out of it
  # and goods that pay their own way; paying_count: whether these count towards the threshold; effect: {Effect};
  # own_prices: whether it also falls on own prices and fees; hides_paid: whether methods that cost something are
  # hidden where it made one free; combines: with other offers; milepost: {Milepost} or nil.
  class Offer < Value.of(:id, :name, :active, :label, :label_more, :threshold, :zones, :methods, :groups, :coupons,
                         :promotions,
                         :period, :first, :blocking, :paying, :paying_count, :effect, :own_prices, :hides_paid,
                         :combines, :milepost)
    PROMOTIONS = %w[with without].freeze
    ORDERS = (1..1_000_000)

    class << self
      # @param reader [Reader]
      # @param store [Hash] currency and time_zone, nil where they could not be read
      # @return [Offer]
      def read(reader, store)
        threshold = reader.object("threshold", required: false)&.then { |item| Threshold.read(item, store[:currency]) }
        new(id: reader.text("id"), name: reader.text("name"), active: reader.flag("active", default: true),
            label: reader.text("label", required: false), label_more: reader.text("label_more", required: false),
            threshold: threshold, **scope(reader),
            period: Period.read(reader, store[:time_zone]), **goods(reader),
            effect: reader.object("effect")&.then { |item| Effect.read(item, store[:currency]) },
            **flags(reader), milepost: milepost(reader, threshold, store))
      end

      private

      def scope(reader)
        { **%w[zones methods coupons].to_h { |key| [key.to_sym, limit(reader, key)] },
          groups: reader.object("groups", required: false)&.then { |item| GroupChoice.read(item) },
          promotions: (reader.choice("promotions", among: PROMOTIONS) if reader.given?("promotions", read: true)),
          first: (reader.whole("first", ORDERS) if reader.given?("first", read: true)) }
      end

      def limit(reader, key)
        return unless reader.given?(key, read: true)

        reader.texts(key, most: 500).tap { |ids| reader.problem(key, :limit_empty) if ids.empty? }
      end

      def goods(reader)
        %w[blocking paying].to_h do |key|
          [key.to_sym, reader.object(key, required: false)&.then { |item| GoodsChoice.read(item) }]
        end
      end

      def flags(reader)
        { "paying_count" => true, "own_prices" => false, "hides_paid" => false, "combines" => false }
          .to_h { |key, default| [key.to_sym, reader.flag(key, default: default)] }
      end

      def milepost(reader, threshold, store)
        reader.object("milepost", required: false)&.then { |item| Milepost.read(item, threshold, store) }
      end
    end

    def initialize(id: nil, **)
      @setting = { kind: "offer", id: id, field: "effect" }.freeze
      super
    end

    # @return [Hash] where a reckoning leads to
    attr_reader :setting

    # @param price [Money] that is left to pay
    # @return [String, nil] what the method is called at that price, nil for its own name
    def label_at(price) = effect.leaves?(price) ? label : label_more

    # @param id [String] of a method
    # @return [Boolean]
    def names?(id) = methods.nil? || methods.include?(id)

    # @param id [String]
    # @return [Boolean]
    def in_zone?(id) = zones.nil? || zones.include?(id)

    # @return [Hash] for JSON
    def dump
      { "id" => id, "name" => name, "active" => active, "label" => label,
        "label_more" => label_more, "threshold" => threshold&.dump,
        "zones" => zones, "methods" => methods, "groups" => groups&.dump, "coupons" => coupons,
        "promotions" => promotions, **period.dump, "first" => first, "blocking" => blocking&.dump,
        "paying" => paying&.dump, "paying_count" => paying_count, "effect" => effect.dump, "own_prices" => own_prices,
        "hides_paid" => hides_paid, "combines" => combines, "milepost" => milepost&.dump }.compact
    end
  end

  # Customer groups: only these, or all but these. Customers of no group are among "all but these".
  class GroupChoice < Value.of(:only, :except)
    # @param reader [Reader]
    # @return [GroupChoice]
    def self.read(reader)
      only = reader.texts("only", most: 500) if reader.given?("only", read: true)
      except = reader.texts("except", most: 500) if reader.given?("except", read: true)
      reader.problem("only", :limit_empty) if only ? only.empty? : except.to_a.empty?
      reader.problem("except", :only_or_except) if only && except
      reader.finish
      new(only: only, except: except)
    end

    # @param id [String, nil]
    # @return [Boolean]
    def include?(id) = only ? only.include?(id) : !except.include?(id)

    # @return [Array<String>] ids that it names
    def ids = only || except || []

    # @return [Hash] for JSON
    def dump = { "only" => only, "except" => except }.compact
  end
end
