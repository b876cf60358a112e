# frozen_string_literal: true

module Server
  # What the checkout door works with: the keys, the release that counts, the quotes and the orders.
  class Checkout
    include CheckoutPort

    # @return [ReleaseShelf]
    attr_reader :releases
    # @return [OfferUses]
    attr_reader :uses
    # @return [Asked]
    attr_reader :asked

    # @return [Trials, nil] nil on a quote server, which has no draft
    attr_reader :trials

    # @param releases [ReleaseShelf]
    # @param trials [Trials, nil]
    def initialize(releases, trials: nil)
      @releases = releases
      @trials = trials
      open_with(KeyRing.new)
      @uses = OfferUses.new
      @emptiness = Emptiness.new
      @asked = Asked.new
      @settings = Remembered.new { Records::DoorSetting.current.document.freeze }
    end

    # Settings of the door are read anew.
    # @return [void]
    def changed = @settings.forget

    # @return [void]
    def clear
      [keys, uses, self].each(&:changed)
      releases.clear
      pace.clear
      [once, asked, @emptiness, CarrierDown, *trials].each(&:clear)
    end

    # @param now [Time]
    # @return [CheckoutQuotes::Ground]
    # @raise [Problem] 503 where nothing has been published
    def ground(now = Time.now)
      number, book = releases.live(now)
      CheckoutQuotes::Ground.new(number, book, uses.counts, @settings.value, Time.at(now.to_i).utc)
    end

    # @param id [Object] as a shop sends it
    # @param key [KeyRing::Key]
    # @return [Trials::Trial]
    # @raise [Problem] 403 for a page's key, 404
    def trial(id, key)
      raise Problem.new(403, "Only the shop's server may ask for what is tried.") if key.public

      (trials && id.is_a?(String) && trials.find(id)) or
        raise Problem.new(404, "There is no such trial, or it is over: open it from the bench once more.")
    end

    # @param trial [Trials::Trial]
    # @return [CheckoutQuotes::Ground] of the draft or a release, at the moment that the merchant says
    # @raise [Problem] 404
    def tried(trial)
      book = trials.book(trial)
      Ground.new(trial.release, book, uses.counts, @settings.value, Time.at(trial.moment(book).to_i).utc, true)
    end

    Ground = CheckoutQuotes::Ground
    private_constant :Ground

    # The key of the seal is there once the database is.
    # @return [CheckoutQuotes]
    def quotes = @quotes ||= CheckoutQuotes.new(seal, telemetry: Telemetry.new(asked: asked, emptiness: @emptiness))

    # @return [CheckoutOrders]
    def orders = @orders ||= CheckoutOrders.new(seal: seal, quotes: quotes, releases: releases, uses: uses)

    # @param body [Hash] CheckoutOrderDraft of the contract
    # @param key [KeyRing::Key]
    # @return [Array] a Rack response
    def place(body, key)
      placed = orders.place(body, key) { ground }
      told(placed.order, placed.made ? 201 : 200)
    end

    # @param number [String]
    # @param body [Hash] CheckoutOrderPatch of the contract
    # @param key [KeyRing::Key]
    # @return [Array] a Rack response
    def close(number, body, key) = told(orders.close(number, body, key), 200)

    # What a quote server has noticed.
    # @param body [Hash] CheckoutNotices of the contract
    # @return [Array] a Rack response
    def notice(body)
      return [204, {}, []] unless AskedRows.store(body["asked"], once: body["id"])

      @emptiness.note(times: body["nothing_offered"]) if body["nothing_offered"].to_i.positive?
      body["carriers_down"].to_a.each { |id| CarrierDown.tell(id) }
      [204, {}, []]
    end

    # @return [Hash] what a quote server has to know
    def state = DoorState.of(ground, keys, releases.since)

    # @param number [Integer] of a release
    # @return [String] its canonical JSON
    # @raise [Problem] 404
    def book(number)
      release = Records::Release.find_by(id: number) or raise Problem.new(404, "There is no release #{number}.")
      release.text
    end

    private

    def told(order, status) = [status, CheckoutDoor::HEADERS.dup, [JSON.generate(order.told)]]
    def seal = @seal ||= QuoteSeal.new(Keys.seal)
  end
end
