# frozen_string_literal: true

module GateMile
  # Asks for quotes rather than looking at settings: carts for which a zone offers nothing though it has rates, and
  # places of a zone at which it offers none. What an edit can't have touched is taken over from the last audit.
  class QuotedFindings
    # Quotes of one audit, at most, and of one zone at least.
    MOST = 6000
    LEAST = 60
    # Causes that mean: the merchant's prices end there.
    ENDS = %i[beyond cell_none too_heavy].freeze
    # Causes that are no "no": something has not been said yet, or a carrier has to be asked.
    OPEN = %i[live_waiting no_price unknown_product no_weight no_size blank_cell no_class_price address_open
              address_decides no_origin no_boxes].freeze
    NOON = "2026-01-06T12:00"
    private_constant :ENDS, :OPEN, :NOON

    # What one zone came to. asked: how many quotes it took.
    Zoned = Struct.new(:findings, :asked)

    # @return [Hash{String => Zoned}] by zone
    attr_reader :zones
    # @return [Integer] quotes that this audit has asked for itself
    attr_reader :asked

    # @param book [Book]
    # @param last [QuotedFindings, nil] of an earlier book
    # @param tell [#call, nil] hears how many zones are done, and of how many
    # @param kept [Array, nil] what {#kept} gave where these findings of the same book were worked out elsewhere
    def initialize(book, last: nil, tell: nil, kept: nil)
      @book = book
      @goods = CaseGoods.new(book)
      @samples = book.zones.samples
      @situations = Situations.new(book, @samples)
      @asked = 0
      @zones, @asked = kept || [work(last, tell), @asked]
    end

    # @return [Array] what another one of the same book can be made of
    def kept = [zones, asked]

    # @return [Array<Finding>]
    def list = zones.each_value.flat_map(&:findings)

    protected

    attr_reader :book, :goods

    private

    def work(last, tell)
      served = @book.rates_in_use.group_by(&:zone)
      edited = Edited.new(last.book, @book) if last && last.goods.key == @goods.key
      served.keys.each_with_index.to_h do |id, at|
        tell&.call(at, served.size)
        kept = last.zones[id] if edited && !edited.zone?(id)
        [id, kept || of_zone(@book.zone(id), [MOST / served.size, LEAST].max)]
      end
    end

    def of_zone(zone, most)
      return Zoned.new([], 0) unless @samples.of(zone)

      before = @asked
      found = nothing(zone, most) + in_part(zone)
      Zoned.new(found, @asked - before)
    end

    def quote(cart, at)
      @asked += 1
      @book.quote(Cart.parse(cart, @book.currency), at: LocalMoment.utc(at || NOON, @book.store.time_zone))
    end

    # Carts that can't be sent by anything, each for other reasons: the smallest that shows them.
    def nothing(zone, most)
      found = {}
      CaseCarts.new(@book, zone, @goods, @samples, @situations).each.first(most).each do |cart, at|
        next if part_stuck?(cart, at, zone)

        quote = quote(cart, at)
        next unless nothing?(quote, zone)

        key = reasons(quote)
        (found[key] ||= [cart, at, quote, []]).last.push(*quote.lines.map(&:label)) unless told?(quote)
      end
      found.map { |by, (cart, at, quote, names)| finding(zone, by, cart, at, quote, names.uniq) }
    end

    # Where one line alone can't be sent, others beside it say nothing new.
    def part_stuck?(cart, at, zone)
      return false if cart["lines"].one?

      cart["lines"].any? { |line| stuck?(cart.merge("lines" => [line]), at, zone) }
    end

    def stuck?(cart, at, zone)
      @stuck ||= {}
      @stuck.fetch([cart, at]) { @stuck[[cart, at]] = nothing?(quote(cart, at), zone) }
    end

    def nothing?(quote, zone)
      quote.status == :nothing_available && quote.landing.zone.equal?(zone) && quote.method_quotes.any? &&
        quote.method_quotes.all? { |one| one.causes.any? { |cause| !OPEN.include?(cause.code) } }
    end

    # What other findings tell already: one kind of goods that may go by nothing, a few rules that hide everything.
    def told?(quote)
      case codes(quote)
      when %i[line_barred] then quote.lines.one?
      when %i[hidden_by_rule] then reasons(quote).size <= RuleFindings::DEEP
      else false
      end
    end

    # Standing causes say nothing of the cart.
    def causes(quote)
      quote.method_quotes.flat_map(&:causes).reject { |one| %i[rate_off method_off].include?(one.code) }
    end

    def codes(quote) = causes(quote).map(&:code).uniq.sort

    # @return [Array<Array(Symbol, String)>] what takes the methods away, each once
    def reasons(quote)
      causes(quote).reject do |cause|
        OPEN.include?(cause.code)
      end.map do |cause|
        [cause.code,
         name_of(cause)]
      end.uniq.sort_by { |code, name| [code.name, name] }
    end

    def name_of(cause)
      kind, id = cause.setting&.values_at(:kind, :id)
      list = { "rule" => @book.rules, "treatment" => @book.treatments, "offer" => @book.offers,
               "method" => @book.methods_in_order }.fetch(kind, [])
      found = list.find { |one| one.id == id } || @book.rates.find { |rate| rate.id == id }
      (found&.name || (found.is_a?(Rate) && @book.shipping_method(found.method_id).name)).to_s
    end

    def finding(zone, by, cart, at, quote, names)
      ends = by.all? { |code, _| ENDS.include?(code) }
      cause = causes(quote).find(&:setting)
      shown = quote.lines.map(&:label).uniq.first(GoodsFindings::SHOWN)
      numbers = { by: by.map { |code, name| { code: code, name: name } }, count: names.size, names: shown }
      Finding.new(code: ends ? :zone_ends : :nothing_left, harm: :warning, zone: zone.id, cart: cart, at: at,
                  numbers: numbers, setting: cause && { kind: cause.setting[:kind], id: cause.setting[:id] })
    end

    # Places of the zone at which every rate is narrowed to another part of it.
    def in_part(zone)
      rates = @book.rates_of(zone).select(&:active)
      return [] unless rates.any? && rates.all?(&:areas)

      areas = zone.areas + rates.flat_map { |rate| rate.areas.lists.flatten(1) }
      PlaceSamples.of(@book, zone, areas).filter_map { |address| left_out(zone, address, rates.first) }.first(1)
    end

    def left_out(zone, address, rate)
      cart = { "lines" => [{ "name" => "Any goods", "quantity" => 1, "unit_price" => "10.00", "weight" => "0.5 kg" }],
               "destination" => Documents.write(address) }
      return unless quote(cart, nil).status == :nothing_available

      Finding.new(code: :zone_in_part, harm: :warning, zone: zone.id, numbers: {}, example: address, cart: cart,
                  setting: { kind: "rate", id: rate.id })
    end
  end
end
