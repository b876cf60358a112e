# frozen_string_literal: true

module Server
  # What became of all proofs in the setup as it stands. After an edit only those are quoted again that it can touch;
  # those without a fixed moment again in another minute where some setting looks at the clock.
  class ProofSuite
    # One proof with what became of it. version: of its row; proof: {GateMile::Proof}; outcome; book: in which that was
    # found; minute: when; held: the {Held} before it changed, or nil.
    Kept = Struct.new(:version, :proof, :outcome, :book, :minute, :held)
    # The last book in which a proof held, and the moment of the quote.
    Held = Struct.new(:book, :at)
    # All of them at one revision. list: {Kept}s by id, in the merchant's order; asked: how many were quoted for it.
    Run = Struct.new(:revision, :book, :now, :list, :asked) do
      # @return [Hash{Symbol => Integer}] how many hold, changed, are unclear
      def counts
        found = list.each_value.map { |kept| kept.outcome.state }.tally
        %i[holds changed unclear].to_h { |state| [state, found.fetch(state, 0)] }
      end
    end

    # @param shelf [BookShelf]
    def initialize(shelf)
      @shelf = shelf
      @lock = Mutex.new
      clear
    end

    # @return [void]
    def clear = @lock.synchronize { @last = nil }

    # @param now [Time]
    # @return [Run] one at a time: who asks meanwhile gets the same
    # @raise [Problem] 404 where there is no shop
    def run(now: Time.now)
      @lock.synchronize do
        revision, book = @shelf.current
        minute = now.to_i / 60
        next @last if @last && @last.revision == revision && @last.now.to_i / 60 == minute

        @last = made(revision, book, now, minute)
      end
    end

    # @param kept [Kept]
    # @return [Array(GateMile::Quote, GateMile::Quote)] what its cart got when it last held, nil where that is not
    #   known, and what it gets now
    def quotes(kept)
      at = kept.outcome.at
      held = kept.held || found(kept)
      before = held&.book&.quote(kept.proof.cart, at: held.at, carriers: kept.proof.recorded.port)
      [before, kept.book.quote(kept.proof.cart, at: at, carriers: kept.proof.recorded.port)]
    end

    private

    # Where it changed before anybody looked, it may have held in one of the books that are kept.
    def found(kept)
      return if kept.outcome.state == :holds

      now = kept.outcome.at
      book = @shelf.kept.find { |old| GateMile::Proving.new(old, now: now).run(kept.proof).state == :holds }
      book && Held.new(book, now)
    end

    def made(revision, book, now, minute)
      asked = 0
      proving = GateMile::Proving.new(book, now: now)
      edits = {}.compare_by_identity
      list = proofs(book).transform_values do |kept|
        edited = kept.book && (edits[kept.book] ||= GateMile::Edited.new(kept.book, book))
        next passed_over(kept, book) if edited && stays?(kept, edited, proving, minute)

        asked += 1
        run_one(kept, proving, book, minute)
      end
      Run.new(revision, book, now, list, asked)
    end

    # The next edit is held against the book as it is now.
    def passed_over(kept, book) = kept.dup.tap { |one| one.book = book }

    def stays?(kept, edited, proving, minute)
      return false if kept.proof.moment.moving? && kept.minute != minute && proving.timed?

      !names_gone?(kept) && !edited.touches?(kept.outcome.looked)
    end

    # What is gone may come back, wherever it stands.
    def names_gone?(kept) = kept.outcome.state == :unclear || kept.outcome.departures.any? { |one| one.code == :zone }

    def run_one(kept, proving, book, minute)
      outcome = proving.run(kept.proof)
      Kept.new(kept.version, kept.proof, outcome, book, minute, held(kept, outcome))
    end

    # It held before this: with that it is compared for as long as it does not hold again.
    def held(kept, outcome)
      return if outcome.state == :holds
      return kept.held unless kept.outcome&.state == :holds

      Held.new(kept.book, outcome.at)
    end

    # @return [Hash{String => Kept}] those that are known as they were, the others still without an outcome
    def proofs(book)
      last = @last ? @last.list : {}
      rows = Database.read { Records::Proof.order(:position, :id).pluck(:id, :lock_version) }
      fresh = rows.reject { |id, version| last[id]&.version == version }.map(&:first)
      read = values(fresh, book)
      rows.filter_map { |id, version| [id, kept(last[id], version, read[id])] if last[id] || read[id] }.to_h
    end

    # What it is to get was changed: it is no question any more when it held before.
    def kept(last, version, proof) = last&.version == version ? last : Kept.new(version, proof)

    def values(ids, book)
      setting = GateMile::Setting.new(book.currency, book.store.time_zone)
      ids.each_slice(500).flat_map { |some| Records::Proof.where(id: some).to_a }
         .to_h { |record| [record.id, record.value(setting)] }
    end
  end
end
