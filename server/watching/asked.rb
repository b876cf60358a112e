# frozen_string_literal: true

module Server
  # Gathers what checkouts ask and what comes of it, a few words for each quote, until it is taken to be stored: how
  # many and how fast by the hour, which methods there were to choose, and the carts that could get nothing. Of such a
  # cart stays what it held and roughly where it was to go: no street, no whole postcode, no group, no coupon.
  class Asked
    # Different carts that wait to be stored; of more than that the goods are not told apart.
    MOST = 2000
    # Goods of one cart that are named.
    NAMED = 20
    # Gatherings that could not be stored and wait for the next try; beyond that the oldest is given up.
    WAITING = 50
    # Of a line: what it takes to put it on the bench.
    LINE = %w[sku quantity unit_price weight size class].freeze
    private_constant :MOST, :NAMED, :WAITING, :LINE

    def initialize
      @lock = Mutex.new
      @storing = Mutex.new
      @waiting = []
      begin_anew
    end

    # @param quote [GateMile::Quote]
    # @param cart [GateMile::Cart]
    # @param seconds [Float] that it took
    # @param now [Time]
    # @param orders [Boolean] whether it can be ordered, and is no estimate
    # @return [void]
    def note(quote, cart, seconds, now, orders: true)
      away = alike(quote, cart, now) if turned_away?(quote, cart)
      offered = orders ? quote.method_quotes.select(&:available?).map(&:rate) : []
      @lock.synchronize do
        count(quote.status, seconds, now)
        offered.each { |rate| @offered[[day(now), rate]] += 1 }
        add(away, quote, cart, now) if away
      end
    end

    # @return [Hash, nil] Asked of the contract, and begins anew; nil where there is nothing
    def take
      @lock.synchronize do
        next if @hours.empty?

        taken = { quotes: @hours.map { |(hour, outcome), found| { hour: hour, outcome: outcome, **found } },
                  offered: @offered.map { |(day, rate), times| { day: day, rate: rate, times: times } },
                  turned_away: @away.map { |about, found| { **about, **found } } }
        begin_anew
        taken
      end
    end

    # Stores what was gathered. What can't be stored now waits for the next time.
    # @yieldparam taken [Hash] Asked of the contract
    # @return [Boolean] whether there was anything
    # @raise what the block raises
    def store
      @storing.synchronize do
        @waiting = [*@waiting, take].compact.last(WAITING)
        any = @waiting.any?
        while @waiting.any?
          yield @waiting.first
          @waiting.shift
        end
        any
      end
    end

    # @return [void]
    def clear
      @storing.synchronize { @waiting = [] }
      @lock.synchronize { begin_anew }
    end

    private

    def begin_anew
      @hours = {}
      @offered = Hash.new(0)
      @away = {}
    end

    def day(now) = now.strftime("%F")

    def count(status, seconds, now)
      key = [now.strftime("%FT%H:00:00Z"), status.to_s]
      found = @hours[key] ||= { times: 0, milliseconds: 0, slowest: 0 }
      took = (seconds * 1000).round
      found[:times] += 1
      found[:milliseconds] += took
      found[:slowest] = took if took > found[:slowest]
    end

    # Where more of the address may bring a method, the shopper is still typing, unless there is no more to type.
    def turned_away?(quote, cart)
      case quote.status
      when :nothing_available, :not_served then true
      when :undetermined then typed?(cart.destination)
      else false
      end
    end

    def typed?(address)
      return false if address.country.nil? || address.postcode.nil?

      address.country != "GB" || !%i[outward unfinished].include?(GateMile::BritishCode.read(address.postcode.split).state)
    end

    # @return [Hash] by which carts are counted together
    def alike(quote, cart, now)
      to = cart.destination
      { day: day(now), status: quote.status.to_s, country: to.country, region: to.region,
        postcode: Asked.outer(to.country, to.postcode), zone: quote.landing&.zone&.id,
        causes: quote.method_quotes.flat_map { |one| one.causes.map { |cause| cause.code.to_s } }.uniq.sort,
        goods: quote.lines.map { |line| line.goods.sku || "" }.uniq.sort.first(NAMED) }
    end

    def add(about, quote, cart, now)
      about = about.merge(goods: []) if @away.size >= MOST && !@away.key?(about)
      return if @away.size >= MOST * 2 && !@away.key?(about)

      found = @away[about] ||= { times: 0, worth: 0, first_at: now.utc.iso8601, cart: nil, units: nil }
      found[:times] += 1
      found[:worth] += quote.measures.value.minor
      found[:last_at] = now.utc.iso8601
      units = cart.lines.sum(&:quantity)
      found.merge!(cart: Asked.plain(cart), units: units) if found[:units].nil? || units < found[:units]
    end

    class << self
      # The beginning of a postcode, which many share: British as far as the space, otherwise three signs.
      # @param country [String, nil]
      # @param postcode [String, nil]
      # @return [String, nil]
      def outer(country, postcode)
        text = postcode.to_s.upcase.strip
        return if text.empty?
        return text.delete(" ")[0, 3] unless country == "GB"

        GateMile::BritishCode.read(text.split).outward || text.delete(" ")[0, 3]
      end

      # @param cart [GateMile::Cart]
      # @return [Hash] a cart document with its goods and roughly where it was to go
      def plain(cart)
        to = cart.destination
        lines = cart.dump["lines"].map do |line|
          line = line.slice(*LINE)
          line.key?("sku") ? line : { "name" => "Goods", **line }
        end
        { "lines" => lines.first(NAMED),
          "destination" => { "country" => to.country, "region" => to.region,
                             "postcode" => outer(to.country, to.postcode) }.compact }
      end
    end
  end
end
