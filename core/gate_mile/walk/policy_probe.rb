# frozen_string_literal: true

module GateMile
  # Looks whether carts show every amount, edge and switch of offers, rules and treatments; what hides behind others is
  # looked for among carts crossed from them. Only carts that have to do with a setting are priced for it.
  class PolicyProbe
    # Carts that are crossed.
    MOST = 160
    private_constant :MOST

    # @return [Array<PolicyMutants::Figure>] whose smallest change is shown: no other zone has to show it again
    attr_reader :settled

    # @param book [Book]
    # @param zone [Zone]
    # @param known [Hash{Array(Hash, String) => Array<Hash>}] carts with their moments, and their reasons
    # @param now [Time] of carts without a moment
    def initialize(book, zone, known, now)
      @book = book
      @zone = zone
      @now = now
      @reasons = known
      @concerned = {}.compare_by_identity
      @settled = []
    end

    # @param figures [Array<PolicyMutants::Figure>]
    # @return [Array<Array>] carts with their moments that show what the others do not, and the setting that they show
    def list(figures)
      figures.filter_map do |figure|
        found = witness(figure) or next
        known.unshift(found)
        @concerned.each_value { |lists| lists.first.unshift(found) }
        [found.key, figure.item]
      end
    end

    private

    Seen = Struct.new(:key, :cart, :facts, :result)
    private_constant :Seen

    def seen(key)
      at = key.last ? LocalMoment.utc(key.last, @book.store.time_zone) : @now
      cart = Cart.parse(key.first, @book.currency)
      Seen.new(key, cart, Facts.new(@book, cart, @book.basket(cart), at))
    end

    def known = @known ||= @reasons.keys.map { |key| seen(key) }
    def crossed = @crossed ||= Crossing.new(known.map(&:key), MOST).list.map { |key| seen(key) }

    # The smallest change that some cart shows is one that a known cart shows, or this one.
    def witness(figure)
      books = figure.books.to_a
      # What does not show where it changes most shows nowhere.
      return if books.size > 1 && !shown(figure, books.last)

      books.each do |changed|
        found = shown(figure, changed) or next
        settled << figure if changed.equal?(books.first)
        return found == :known ? nil : found
      end
      nil
    end

    # @return [Seen, Symbol, nil] :known where a cart shows it that is proposed already
    def shown(figure, changed)
      lists = (@concerned[figure.item] ||= [concerned(known, figure.item), nil])
      return :known if lists.first.any? { |one| differs?(changed, one) }

      lists[1] ||= concerned(crossed, figure.item)
      lists[1].find { |one| differs?(changed, one) }
    end

    # Those that were made for it first, then those that it could act on.
    def concerned(list, item)
      made, others = list.partition { |one| @reasons[one.key]&.any? { |reason| reason.dig(:setting, :id) == item.id } }
      made + others.select { |one| concerns?(item, one) }
    end

    def concerns?(item, one)
      case item
      when Offer then Standing.new(item.with(active: true), one.facts, @zone).reasons.empty?
      when Rule then item.tree.holds?(Circumstances.new(one.facts, @zone, one.cart.destination))
      else one.facts.basket.lines.any? { |line| line.treatments.any? { |placed| placed.treatment.id == item.id } }
      end
    end

    def differs?(changed, one)
      one.result ||= result(@book, one)
      result(changed, one) != one.result
    end

    def result(book, one)
      # The goods of a cart are the same as long as treatments are: what they come to is worked out already.
      same = book.treatments.equal?(@book.treatments)
      quote = same ? Quote.new(book, one.facts) : book.quote(one.cart, at: one.facts.at)
      [quote.status, quote.method_quotes.to_h { |method| [method.method_id, method.price&.minor] }]
    end
  end
end
