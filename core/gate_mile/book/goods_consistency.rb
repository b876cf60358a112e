# frozen_string_literal: true

module GateMile
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
      Consistency.twice(@reader, goods.map { |item, path| [Product.fold(item.sku), [*path, "sku"]] })
      goods.each { |item, path| item(item, path) }
      @parts[:products].each_with_index { |item, at| known(:tax_class, item.tax_class, [:products, at, :tax_class]) }
      @parts[:classes].each_with_index { |item, at| all(:treatment, item.treatments, [:classes, at, :treatments]) }
      @parts[:treatments].each_with_index { |item, at| treatment(item, [:treatments, at]) }
      @parts[:rates].each_with_index { |rate, at| rate(rate, [:rates, at]) }
      all(:box, @parts[:store].parcels.boxes, %i[store parcels boxes])
    end

    private

    def rate(rate, path)
      plans(rate, path)
      live(rate, [*path, :live])
    end

    def ids(list) = @parts[list].to_set(&:id)

    def goods
      @goods ||= @parts[:products].each_with_index.flat_map do |product, at|
        [[product, [:products, at]]] +
          product.variants.each_with_index.map { |variant, number| [variant, [:products, at, :variants, number]] }
      end
    end

    def item(item, path)
      known(:class, item.shipping_class, [*path, "class"])
      all(:treatment, item.treatments, [*path, :treatments])
    end

    def treatment(item, path)
      all(:zone, item.zones, [*path, :zones])
      all(:method, item.method_ids, [*path, :methods])
      all(:method, item.only, [*path, :travel, :only])
      all(:method, item.never, [*path, :travel, :never])
      methods = item.price&.by_method || {}
      methods.each_key.with_index { |id, at| known(:method, id, [*path, :price, :by_method, at, :method]) }
    end

    def plans(rate, path)
      %i[plan cost].each do |field|
        all(:box, rate[field]&.parcels&.boxes, [*path, field, :parcels, :boxes])
        classes = rate[field]&.classes or next
        classes.list.each_with_index { |item, at| known(:class, item.group, [*path, field, :classes, at, :class]) }
      end
    end

    # Services of carriers that are there; a fallback to the rate's own plan needs one.
    def live(rate, path)
      live = rate.live or return
      live.services.each_with_index { |(id, _), at| known(:carrier, id, [*path, :services, at, :carrier]) }
      return if rate.plan || !live.plan_in_ladder?

      @reader.problem([*path, :ladder], :no_plan_to_fall_back_on)
    end

    def all(kind, ids, path) = ids&.each_with_index { |id, at| known(kind, id, [*path, at]) }

    def known(kind, id, path)
      @reader.problem(path, :unknown_id) unless id.nil? || @known[kind].include?(id)
    end
  end
end
