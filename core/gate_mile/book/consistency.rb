# frozen_string_literal: true

module GateMile
  # What can only be seen when the parts of a book are looked at together: the same name twice, a rate that points
  # nowhere.
  module Consistency
    # list => [field, code of the problem when two share it]
    UNIQUE = { classes: %i[id name], treatments: %i[id], zones: %i[id name], methods: %i[id code],
               rates: %i[id], groups: %i[id name], coupons: %i[id code], offers: %i[id], rules: %i[id],
               carriers: %i[id name] }.freeze
    # The same for the lists of the store.
    OF_STORE = { boxes: %i[id name], tax_classes: %i[id name] }.freeze
    private_constant :UNIQUE, :OF_STORE

    # @param reader [Reader] of the whole document; problems are noted on it
    # @param parts [Hash{Symbol => Object}] the parts that were read
    # @return [void]
    def self.check(reader, parts)
      UNIQUE.each { |list, fields| unique(reader, list_of(parts, list), fields, [list]) }
      OF_STORE.each { |list, fields| unique(reader, parts[:store][list], fields, [:store, list]) }
      rates(reader, parts)
      GoodsConsistency.new(reader, parts).check
      TermsConsistency.new(reader, parts).check
    end

    def self.list_of(parts, list) = parts[list] || parts[:policies][list]

    def self.unique(reader, items, fields, place)
      fields.each do |field|
        twice(reader, items.each_with_index.map { |item, at| [Product.fold(item[field]), [*place, at, field]] })
      end
    end
    private_class_method :unique

    # @param reader [Reader]
    # @param places [Array<Array(Object, Array)>] keys, and where in the document each stands
    # @return [void]
    def self.twice(reader, places)
      seen = {}
      places.each do |key, place|
        reader.problem(place, :twice, first: seen[key].find { |part| part.is_a?(Integer) } + 1) if seen.key?(key)
        seen[key] ||= place
      end
    end

    def self.rates(reader, parts)
      known = { zone: parts[:zones].map(&:id), method: parts[:methods].map(&:id) }
      parts[:rates].each_with_index do |rate, index|
        known.each do |field, ids|
          reader.problem([:rates, index, field], :unknown_id) unless ids.include?(rate[field])
        end
      end
      twice(reader, parts[:rates].each_with_index.map do |rate, at|
        [[rate.zone, rate[:method]], [:rates, at, :method]]
      end)
    end
    private_class_method :rates
  end

  # The same for products, classes and treatments: SKUs of products and variants are one list, and what they name must
  # be there.
  class GoodsConsistency
    # @param reader [Reader]
    # @param parts [Hash{Symbol => Object}]
    def initialize(reader, parts)
      @reader = reader
      @parts = parts
      @known = { class: ids(:classes), treatment: ids(:treatments), zone: ids(:zones), method: ids(:methods),
                 carrier: ids(:carriers), tax_class: parts[:store].tax_classes.to_set(&:id),
                 box: parts[:store].boxes.to_set(&:id) }
    end

    # @return [void] notes problems on the reader
    def check
      Consistency.twice(@reader, goods.map { |item, place| [Product.fold(item.sku), [*place, "sku"]] })
      goods.each { |item, place| item(item, place) }
      @parts[:products].each_with_index { |item, at| known(:tax_class, item.tax_class, [:products, at, :tax_class]) }
      @parts[:classes].each_with_index { |item, at| all(:treatment, item.treatments, [:classes, at, :treatments]) }
      @parts[:treatments].each_with_index { |item, at| treatment(item, [:treatments, at]) }
      @parts[:rates].each_with_index { |rate, at| rate(rate, [:rates, at]) }
      all(:box, @parts[:store].parcels.boxes, %i[store parcels boxes])
    end

    private

    def rate(rate, place)
      plans(rate, place)
      live(rate, [*place, :live])
    end

    def ids(list) = @parts[list].to_set(&:id)

    def goods
      @goods ||= @parts[:products].each_with_index.flat_map do |product, at|
        [[product, [:products, at]]] +
          product.variants.each_with_index.map { |variant, number| [variant, [:products, at, :variants, number]] }
      end
    end

    def item(item, place)
      known(:class, item.shipping_class, [*place, "class"])
      all(:treatment, item.treatments, [*place, :treatments])
    end

    def treatment(item, place)
      all(:zone, item.zones, [*place, :zones])
      all(:method, item.methods, [*place, :methods])
      all(:method, item.only, [*place, :travel, :only])
      all(:method, item.never, [*place, :travel, :never])
      methods = item.price&.by_method || {}
      methods.each_key.with_index { |id, at| known(:method, id, [*place, :price, :by_method, at, :method]) }
    end

    def plans(rate, place)
      %i[plan cost].each do |field|
        all(:box, rate[field]&.parcels&.boxes, [*place, field, :parcels, :boxes])
        classes = rate[field]&.classes or next
        classes.list.each_with_index { |item, at| known(:class, item.group, [*place, field, :classes, at, :class]) }
      end
    end

    # Services of carriers that are there; a fallback to the rate's own plan needs one.
    def live(rate, place)
      live = rate.live or return
      live.services.each_with_index { |(id, _), at| known(:carrier, id, [*place, :services, at, :carrier]) }
      return if rate.plan || !live.plan_in_ladder?

      @reader.problem([*place, :ladder], :no_plan_to_fall_back_on)
    end

    def all(kind, ids, place) = ids&.each_with_index { |id, at| known(kind, id, [*place, at]) }

    def known(kind, id, place)
      @reader.problem(place, :unknown_id) unless id.nil? || @known[kind].include?(id)
    end
  end

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

    def offer(offer, place)
      { zone: :zones, method: :methods, coupon: :coupons }.each { |kind, key| all(kind, offer[key], [*place, key]) }
      groups(offer.groups, [*place, :groups])
      %i[blocking paying].each { |key| all(:class, offer[key]&.classes, [*place, key, :classes]) }
      milepost(offer, [*place, :milepost])
    end

    def rule(rule, place)
      tree(rule.tree, [*place, :when])
      rule.actions.each_with_index { |action, at| all(:method, action[:methods], [*place, :then, at, :methods]) }
    end

    def groups(choice, place)
      %i[only except].each { |key| all(:group, choice[key], [*place, key]) } if choice
    end

    # A milepost can only be narrowed: it speaks where the offer holds.
    def milepost(offer, place)
      post = offer.milepost or return
      all(:zone, post.zones, [*place, :zones])
      all(:group, post.groups, [*place, :groups])
      wider(post.zones, [*place, :zones]) { |id| offer.in_zone?(id) }
      wider(post.groups, [*place, :groups]) { |id| offer.groups.nil? || offer.groups.include?(id) }
    end

    def wider(ids, place)
      ids&.each_with_index { |id, at| @reader.problem([*place, at], :wider_than_offer) unless yield(id) }
    end

    def tree(tree, place)
      tree.parts.each_with_index do |part, at|
        here = [*place, tree.of, at]
        next tree(part, here) if part.is_a?(Tree)

        all(part.fact.to_sym, part.of, [*here, :of]) if LISTS.key?(part.fact.to_sym)
      end
    end

    def all(kind, ids, place)
      ids&.each_with_index { |id, at| @reader.problem([*place, at], :unknown_id) unless @known[kind].include?(id) }
    end
  end
end
