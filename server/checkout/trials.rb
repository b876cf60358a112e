# frozen_string_literal: true

module Server
  # Carts that the merchant looks at in the shop, as they stand on the bench: on the draft or on a release, at any
  # moment. The shop gets the cart by the trial's id, and asks with that id; nothing can be ordered with what it gets.
  # They are kept in memory, for a while.
  class Trials
    # Seconds.
    LASTS = 7200
    # At once; the oldest goes first.
    MOST = 200
    private_constant :LASTS, :MOST

    # cart: a cart document; release: a number, nil for the draft; at: on the store's clock, nil for now; ends_at:
    # {Time}.
    Trial = Struct.new(:cart, :release, :at, :ends_at) do
      # @param book [GateMile::Book]
      # @return [Time]
      def moment(book) = Moments.of(at, book.store.time_zone)

      # @return [Hash] CheckoutTrial of the contract
      def told = { cart: cart, release: release, at: at }
    end

    # @param shelf [BookShelf]
    # @param releases [ReleaseShelf]
    def initialize(shelf, releases)
      @shelf = shelf
      @releases = releases
      @lock = Mutex.new
      clear
    end

    # @param cart [Hash] a cart document
    # @param release [Integer, nil]
    # @param at [String, nil] on the store's clock
    # @return [String] id
    # @raise [Problem] 404, 422
    def open(cart, release, at)
      trial = Trial.new(cart, release, at, Time.now + LASTS)
      trial.moment(book(trial))
      id = SecureRandom.alphanumeric(24)
      @lock.synchronize do
        @list.shift if @list.size >= MOST
        @list[id] = trial
      end
      id
    end

    # @param id [String]
    # @return [Trial, nil]
    def find(id)
      found = @lock.synchronize { @list[id] }
      found if found && found.ends_at > Time.now
    end

    # @param trial [Trial]
    # @return [GateMile::Book]
    # @raise [Problem] 404
    def book(trial) = trial.release ? @releases.book(trial.release) : @shelf.current.last

    # @return [void]
    def clear = @lock.synchronize { @list = {} }
  end
end
