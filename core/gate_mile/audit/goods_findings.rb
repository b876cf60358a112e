# frozen_string_literal: true

module GateMile
  # What is wrong or worth knowing about goods, classes and treatments. Goods that the same treatments reach are looked
  # at once, so that twenty thousand products are as many looks as there are different cases.
  class GoodsFindings
    SHOWN = 5

    # Goods with the same treatments and class: one of them, how many, and the names of the first.
    Kind = Struct.new(:placed, :count, :names)
    private_constant :Kind

    # @param book [Book]
    def initialize(book)
      @book = book
      @treatments = book.treatments
      @rates = book.rates_in_use
    end

    # @return [Array<Finding>]
    def list
      @kinds = kinds
      no_way + barred_prices + never + unweighed + unclassed + empty_classes
    end

    private

    # Products with variants are bought as one of these; goods that need no shipping are of no interest here.
    def articles = Alone.goods(@book)

    def kinds
      found = Alone.alike(@book).map do |goods|
        Kind.new(@treatments.on(goods.first, goods.first.shipping_class), goods.size, goods.first(SHOWN).map(&:name))
      end
      found.select { |kind| kind.placed.any? }
    end

    # Goods that can travel by no method of a zone that has some.
    def no_way
      @rates.group_by(&:zone).flat_map do |zone, rates|
        stuck = @kinds.select { |kind| rates.all? { |rate| bars(kind, rate).any? } }
        next [] if stuck.empty?

        cause = bars(stuck.first, rates.first).first.treatment
        [Finding.new(code: :no_way, harm: :warning, zone: zone, numbers: told(stuck), setting: of(cause))]
      end
    end

    def bars(kind, rate) = kind.placed.select { |item| item.treatment.bars?(rate.zone, rate.method_id) }

    # An own price at a method by which another treatment does not let the goods go.
    def barred_prices
      stuck = @kinds.flat_map do |kind|
        own = Precedence.of(@book, kind.placed).select { |row| row.wins&.any? && row.treatment.price.apart? }
        own.filter_map { |row| barring(kind, row)&.then { |bar| [row.treatment, bar, kind] } }
      end
      stuck.group_by { |treatment, bar,| [treatment.id, bar.id] }.map do |_, found|
        treatment, bar = found.first
        Finding.new(code: :own_price_barred, harm: :warning, setting: of(treatment),
                    numbers: { treatment: treatment.name, by: bar.name, **told(found.map(&:last)) })
      end
    end

    # @return [Treatment, nil] another one, where the goods may travel by no rate at which the own price counts
    def barring(kind, row)
      found = rates(row.wins).map { |rate| bars(kind, rate).find { |item| !item.treatment.equal?(row.treatment) } }
      found.first.treatment if found.all?
    end

    def rates(ids) = @rates.select { |rate| ids.include?(rate.id) }

    # Treatments that say something and can never apply.
    def never
      @treatments.select(&:active).filter_map do |treatment|
        reason = reason_of(treatment) or next
        Finding.new(code: :treatment_never, harm: :warning, setting: of(treatment),
                    numbers: { treatment: treatment.name, reason: reason })
      end
    end

    def reason_of(treatment)
      return :says_nothing unless treatment.price || treatment.restricts?

      rows = rows_of(treatment)
      return :reaches_nothing if rows.empty?
      return :no_rate if rows.all? { |row| row.state == :nowhere }

      :shadowed if rows.all? { |row| row.state == :shadowed }
    end

    def rows_of(treatment)
      @kinds.select { |kind| kind.placed.any? { |item| item.treatment.equal?(treatment) } }.flat_map do |kind|
        Precedence.of(@book, kind.placed).select { |row| row.treatment.equal?(treatment) }
      end
    end

    # A missing weight is harm only where a rate in use looks at weights.
    def unweighed
      found = articles.reject(&:weight)
      return [] if found.empty?

      needing = @rates.select { |rate| rate.plan&.needs_weight?(@book.store.parcels) }
      [Finding.new(code: :no_weight, harm: needing.any? ? :warning : :note,
                   numbers: { rates: needing.size, count: found.size, names: found.first(SHOWN).map(&:name) })]
    end

    def unclassed
      found = @book.classes.any? ? articles.reject(&:shipping_class) : []
      return [] if found.empty?

      [Finding.new(code: :no_class, harm: :note,
                   numbers: { count: found.size, names: found.first(SHOWN).map(&:name) })]
    end

    def empty_classes
      used = @book.catalogue.articles.to_set(&:shipping_class)
      @book.classes.reject { |item| used.include?(item.id) }.map do |item|
        Finding.new(code: :empty_class, harm: :note, numbers: { class: item.name },
                    setting: { kind: "class", id: item.id })
      end
    end

    def told(kinds) = { count: kinds.sum(&:count), names: kinds.flat_map(&:names).first(SHOWN) }

    def of(treatment) = { kind: "treatment", id: treatment.id }
  end
end
