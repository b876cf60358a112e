# frozen_string_literal: true

module GateMile
  # Looks at every offer for one cart, from what became of it at the methods.
  class Outlooks
    # The best that became of it anywhere counts.
    RANKS = %i[acted no_gain below over unknown no_share beaten].freeze
    # What stands against an offer by itself: the address, or what is there of its methods.
    UNSAID = { not_for_them: :no_zone, no_method: :no_method }.freeze
    private_constant :RANKS, :UNSAID

    # @param book [Book]
    # @param facts [Facts]
    # @param landing [Landing, nil]
    # @param terms [Terms, nil] of the zone, where it is known
    # @param outcomes [Hash{String => Array<Settling::Outcome>}] by method, of those that were priced
    # @param free [Array<String>] of them, those that cost nothing now
    def initialize(book, facts, landing, terms, outcomes, free: [])
      @book = book
      @facts = facts
      @landing = landing
      @zone = terms&.zone
      @terms = terms
      @free = free
      @outcomes = Hash.new { |hash, key| hash[key] = [] }.compare_by_identity
      outcomes.each { |method, list| list.each { |outcome| @outcomes[outcome.offer] << [method, outcome] } }
    end

    # @return [Array<Outlook>] in the merchant's order
    def list
      standings = @terms ? @terms.standings : @book.offers.map { |offer| Standing.new(offer, @facts, nil) }
      standings.map { |standing| of(standing) }
    end

    private

    def of(standing)
      return plain(standing, :not_for_them, moment: said(standing, "not_for_you")) unless for_them?(standing)
      return plain(standing, :blocked) if standing.blocked?

      @zone ? priced(standing) : supposed(standing)
    end

    # While the zone is not known, it could hold where one that is still possible is among the offer's.
    def for_them?(standing) = standing.for_them? && (@zone || possible?(standing.offer))

    def possible?(offer)
      return served? if offer.zones.nil?
      return false if @landing&.status == :none

      (@landing&.candidates || @book.zones.to_a).any? { |zone| zone && offer.in_zone?(zone.id) }
    end

    def served? = @landing&.status != :none

    def plain(standing, state, moment: nil, **numbers)
      reasons = standing.reasons
      reasons << { code: UNSAID.fetch(state) } if reasons.empty? && UNSAID.key?(state)
      Outlook.new(offer: standing.offer, state: state, method_ids: [], reasons: reasons, moment: moment,
                  sure: !@zone.nil?, **numbers)
    end

    # By what became of it at the methods.
    def priced(standing)
      return before(standing) if @facts.basket.lines.empty?

      found = @outcomes[standing.offer]
      return plain(standing, :no_method) if found.empty? # none that it names is available

      told(standing, found)
    end

    def told(standing, found)
      state = found.map { |_, outcome| outcome.state }.min_by { |one| RANKS.index(one) }
      best = found.map(&:last).select { |outcome| outcome.state == state }
                  .min_by { |outcome| outcome.numbers[:remaining] || 0 }
      return measured(standing, state, best.numbers, moment: nil) if state == :below && nothing_left?(found)

      measured(standing, state, best.numbers, method_ids: acted(found))
    end

    # Whether all that it could make cheaper costs nothing already: then nothing is promised for more.
    def nothing_left?(found) = found.all? { |method, _| @free.include?(method) }

    def acted(found) = found.filter_map { |method, outcome| method if outcome.state == :acted }

    # The zone is not known yet: what the goods alone say.
    def supposed(standing)
      return before(standing) if @facts.basket.lines.empty?

      wanted = standing.offer.threshold or return measured(standing, :acted, {})
      number = standing.amount(@facts.basket.shipping)
      return measured(standing, :unknown, {}) if number.nil?

      stand = wanted.stand(number)
      here = wanted.amount(number, @book.store)
      return measured(standing, stand == :over ? :over : :acted, { here: here }) unless stand == :below

      measured(standing, :below, { here: here,
                                   remaining: wanted.amount(wanted.from.base - number, @book.store) })
    end

    def before(standing)
      wanted = standing.offer.threshold
      amount = wanted&.least(@book.store)
      numbers = { remaining: amount, here: wanted&.amount(0, @book.store) }
      measured(standing, :below, numbers, moment: said(standing, "before"))
    end

    def measured(standing, state, numbers, method_ids: [], moment: moment_of(standing, state, numbers))
      wanted = standing.offer.threshold
      Outlook.new(offer: standing.offer, state: state, remaining: numbers[:remaining],
                  threshold: wanted&.least(@book.store), here: numbers[:here], method_ids: method_ids,
                  reasons: reasons(state, numbers), moment: moment, sure: !@zone.nil?)
    end

    def reasons(state, numbers)
      return [] if %i[acted no_gain].include?(state)

      [{ code: state, **numbers.slice(:remaining, :here, :from, :below, :price) }]
    end

    def moment_of(standing, state, numbers)
      case state
      when :acted then said(standing, "reached")
      when :below then said(standing, near?(standing.offer, numbers[:remaining]) ? "nearly" : "away")
      end
    end

    def near?(offer, remaining)
      near = offer.milepost&.near
      return false if near.nil? || remaining.nil? || offer.milepost.texts["nearly"].nil?

      near.base >= case remaining
                   when Money then remaining.minor
                   when Weight then remaining.base
                   else remaining
                   end
    end

    # @return [String, nil] the moment, where the milepost says something then, and to them
    def said(standing, moment)
      milepost = standing.offer.milepost
      return unless milepost&.active && milepost.texts[moment] && standing.offer.active
      return if milepost.period.outside(@facts.at)

      moment if milepost_zone?(milepost) && (milepost.groups.nil? || milepost.groups.include?(@facts.group))
    end

    def milepost_zone?(milepost)
      return true if milepost.zones.nil?
      return milepost.zones.include?(@zone.id) if @zone

      (@landing&.candidates || @book.zones.to_a).any? { |zone| zone && milepost.zones.include?(zone.id) }
    end
  end
end
