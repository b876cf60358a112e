# frozen_string_literal: true

module Server
  # The releases as checkouts use them: which one counts at a moment, and the book of each, compiled once.
  class ReleaseShelf
    # Books that are kept, the live one always among them; one of a large shop takes much memory.
    KEPT = 4
    private_constant :KEPT

    def initialize
      @making = Mutex.new
      @plan = Remembered.new { read_plan }
      clear
    end

    # Which releases count from when on is read anew.
    # @return [void]
    def changed = @plan.forget

    # @return [void]
    def clear
      changed
      @books = {}.freeze
    end

    # @param now [Time]
    # @return [Integer, nil] the number of the release that counts, nil where nothing has been published
    def number(now = Time.now) = standing(now)&.at(1)

    # @param now [Time]
    # @return [Time, nil] when the release that counts began to
    def since(now = Time.now) = standing(now)&.first&.then { |due| Time.at(due).utc }

    # @param now [Time]
    # @return [Array(Integer, GateMile::Book)] the number of the release that counts, and its book
    # @raise [Problem] 503 where nothing has been published
    def live(now = Time.now)
      number = number(now) or raise Problem.new(503, "This shop has published nothing yet.", retry_after: 60)
      [number, book(number)]
    end

    # @param number [Integer]
    # @return [GateMile::Book]
    # @raise [Problem] 404
    def book(number)
      @books[number] || @making.synchronize { @books[number] || make(number) }
    end

    private

    def standing(now)
      moment = now.to_f
      @plan.value.reverse_each.find { |due, _, told| told || due <= moment }
    end

    # What has begun to count stays so, whatever becomes of the clock.
    def read_plan
      Records::Publication.standing.in_order.pluck(:due, :release_id, :told)
                          .map { |due, number, told| [due.to_f, number, told] }
    end

    def make(number)
      release = Records::Release.find_by(id: number) or raise Problem.new(404, "There is no release #{number}.")
      book = GateMile::Book.compile(JSON.parse(release.text))
      live, others = @books.partition { |kept, _| kept == self.number }
      @books = [*live, *others.last(KEPT - 1 - live.size), [number, book]].to_h.freeze
      book
    end
  end
end
