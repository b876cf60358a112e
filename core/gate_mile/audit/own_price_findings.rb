# frozen_string_literal: true

module GateMile
  # Own prices of goods that are far from what the ordinary rate would be: one of them is probably a slip.
  class OwnPriceFindings
    # An own price is far from the ordinary one where it is more than so many times as high, or as low.
    FAR = 3
    # Goods with own prices that are looked at, at most.
    SAMPLE = 60

    # One case. times: how many times the higher of own and ordinary is the lower one.
    Far = Struct.new(:treatment, :article, :rate, :own, :ordinary, :times)
    private_constant :Far

    # @param book [Book]
    def initialize(book)
      @book = book
      @alone = Alone.new(book)
      @rates = book.rates_in_use.select(&:plan)
    end

    # @return [Array<Finding>] one for each treatment, about its worst case
    def list
      apart = Alone.alike(@book).select { |goods| placed(goods.first).any? { |item| item.treatment.price&.apart? } }
      goods = Alone.in_order(@book, apart.flat_map { |some| some.first(SAMPLE) })
      found = goods.first(SAMPLE).product(@rates).filter_map { |article, rate| far(article, rate) }
      found.group_by { |item| item.treatment.id }.each_value.map { |items| finding(items) }
    end

    private

    def placed(article) = @book.treatments.on(article, article.shipping_class)

    # A zero is meant.
    def far(article, rate)
      treatment = pricing(article, rate) or return
      own = @alone.quote(rate, article).price
      ordinary = @alone.ordinary(rate, article)
      return unless paid?(own) && paid?(ordinary)

      less, more = [own, ordinary].map(&:minor).minmax
      Far.new(treatment, article, rate, own, ordinary, Rational(more, less)) if more > less * FAR
    end

    # @return [Treatment, nil] whose own price counts
    def pricing(article, rate)
      found = placed(article).map(&:treatment).find { |item| item.price && item.applies?(rate.zone, rate.method_id) }
      found if found&.price&.apart?
    end

    def paid?(amount) = amount.is_a?(Money) && !amount.zero?

    def finding(items)
      worst = items.max_by(&:times)
      rate = worst.rate
      Finding.new(code: :own_price_far, harm: worst.own < worst.ordinary ? :warning : :note, zone: rate.zone,
                  numbers: { rate: rate.name || @book.shipping_method(rate.method_id).name, name: worst.article.name,
                             treatment: worst.treatment.name, price: worst.own, ordinary: worst.ordinary,
                             count: items.map(&:article).uniq.size },
                  setting: { kind: "treatment", id: worst.treatment.id })
    end
  end
end
