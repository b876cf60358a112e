# frozen_string_literal: true

module Server
  # What a quote process answers from: the newest whole state of its folder. What is damaged is told, and the one before
  # stays.
  class QuoteGround
    # Seconds between two looks at the folder.
    PAUSE = 0.5
    private_constant :PAUSE

    # One state, ready: its book compiled, its keys by digest, its carriers by id.
    Ready = Struct.new(:mark, :number, :digest, :book, :uses, :settings, :keys, :seal, :carriers)

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

    # Takes over what is new in the folder. What is damaged is looked at again and again: it may be mended.
    # @return [void]
    def look
      @lock.synchronize do
        mark = @folder.mark
        next if mark.nil? || mark == @ready&.mark

        @ready = made(mark, @folder.state)
        @trouble = nil
      end
    rescue ReleaseFolder::Damaged, GateMile::Invalid, KeyError, TypeError => e
      Log.fault(e, "taking over a release; the one before stays") unless @trouble == e.message
      @trouble = e.message
    end

    private

    def made(mark, state)
      release = state.fetch("release")
      book = @ready.book if @ready && @ready.digest == release.fetch("digest")
      book ||= GateMile::Book.compile(JSON.parse(@folder.book(release)))
      uses, settings, keys, seal, carriers = state.fetch_values("uses", "settings", "keys", "seal", "carriers")
      Ready.new(mark, *release.values_at("number", "digest"), book, uses, settings.transform_keys(&:to_sym),
                KeyRing.read(keys), QuoteSeal.new(seal), carriers(carriers))
    end

    # A carrier as its client looks at it.
    Carrier = Struct.new(:id, :name, :address, :account, :secret, :lock_version, keyword_init: true)
    private_constant :Carrier

    def carriers(list) = list.to_h { |one| [one["id"], Carrier.new(**one.transform_keys(&:to_sym))] }
  end
end
