# frozen_string_literal: true

module Server
  # What a quote process answers from: the newest release of its folder that is whole, with the newest state. Every
  # process goes by the same files, so that all of them answer alike, before and after a restart. Where a file was
  # damaged and this process holds what stood in it, it is written anew.
  class QuoteGround
    # Seconds between two looks at the folder.
    PAUSE = 0.5
    private_constant :PAUSE

    # One state, ready: its book compiled, its keys by digest, its carriers by id; state: as it stood in the folder.
    Ready = Struct.new(:mark, :number, :digest, :book, :uses, :settings, :keys, :seal, :carriers, :state) do
      # @param now [Time]
      # @return [Float, nil] seconds since the release began to count; nil where the workbench did not say
      def age(now = Time.now) = state["since"] && [now - Time.iso8601(state["since"]), 0].max
    end

    # @return [String, nil] why the newest state of the folder is not the one that counts
    attr_reader :trouble

    # @param folder [ReleaseFolder]
    def initialize(folder)
      @folder = folder
      @lock = Mutex.new
      look
    end

    # @yield after another release was taken over
    # @return [Thread] that goes on looking
    def watch
      Thread.new do
        loop do
          sleep PAUSE
          before = ready&.number
          look
          yield if ready&.number != before
        end
      end
    end

    # @return [Ready, nil] nil before there is any
    attr_reader :ready

    # @param now [Time]
    # @return [Float, nil] seconds since the workbench last answered; nil where it never has
    def seen(now = Time.now) = @folder.since(:seen, now)

    # @param now [Time]
    # @return [Float, nil] seconds since the courier's last round; nil where there was none
    def rounds(now = Time.now) = @folder.since(:rounds, now)

    # Takes over what is new in the folder. What is damaged is mended, or looked at again and again.
    # @return [void]
    def look
      @lock.synchronize do
        mark = @folder.mark
        next if mark.nil? || mark == @ready&.mark

        mend
        take_over
      end
    rescue ReleaseFolder::Damaged, GateMile::Invalid, KeyError, TypeError, NoMethodError => e
      tell(e, "taking over a release; the one before stays")
    end

    private

    def tell(error, doing)
      Log.fault(error, doing) unless @trouble == error.message
      @trouble = error.message
    end

    # Puts back what this process knows to have stood in a file that is damaged now.
    def mend
      @folder.keep_state(@folder.copy || @ready&.state || return) unless @folder.state?
      release = @folder.state["release"]
      return if @ready.nil? || @ready.digest != release["digest"] || @folder.book?(release)

      text = GateMile::Canonical.json(@ready.book.dump)
      @folder.keep_book(@ready.number, text) if Digest::SHA256.hexdigest(text) == @ready.digest
    rescue SystemCallError
      nil # a full disk, perhaps: what is whole counts
    end

    def take_over
      mark = @folder.mark
      state = @folder.state
      release, book, trouble = whole(state)
      @ready = made(mark, state, release, book)
      trouble ? tell(trouble, "taking over a release; release #{release["number"]} counts") : @trouble = nil
    end

    # @return [Array(Hash, GateMile::Book, Damaged)] the newest that is whole, and what is wrong with a newer one
    def whole(state)
      newest = state.fetch("release")
      [newest, compiled(newest), nil]
    rescue ReleaseFolder::Damaged => e
      older = @folder.before&.fetch("release") or raise
      [older, compiled(older), e]
    end

    def compiled(release)
      text = @folder.book(release)
      return @ready.book if @ready && @ready.digest == release.fetch("digest")

      GateMile::Book.compile(JSON.parse(text))
    end

    def made(mark, state, release, book)
      uses, settings, keys, seal, carriers = state.fetch_values("uses", "settings", "keys", "seal", "carriers")
      Ready.new(mark, *release.values_at("number", "digest"), book, uses, settings.transform_keys(&:to_sym),
                KeyRing.read(keys), QuoteSeal.new(seal), carriers(carriers), state)
    end

    # A carrier as its client looks at it.
    Carrier = Struct.new(:id, :name, :address, :account, :secret, :lock_version, keyword_init: true)
    private_constant :Carrier

    def carriers(list) = list.to_h { |one| [one["id"], Carrier.new(**one.transform_keys(&:to_sym))] }
  end
end
