# frozen_string_literal: true

module Server
  # What changes for carts between two setups, worked out beside the answers: who asks before it is there is told so.
  class ComparisonDesk
    # Seconds that an answer waits for it.
    WAIT = 1.0
    # Comparisons that are kept.
    KEPT = 6
    private_constant :WAIT, :KEPT

    # The answer while it is not there yet.
    LATER = { ready: false, whole: false, gained: [], lost: [], carts: [], findings: [] }.freeze
    private_constant :LATER

    # One side of a comparison. name: a number, or the draft with its revision; book; revision: nil of a release.
    Side = Struct.new(:name, :book, :revision)

    # @param shelf [BookShelf]
    # @param releases [ReleaseShelf]
    def initialize(shelf:, releases:)
      @shelf = shelf
      @releases = releases
      @lock = Mutex.new
      clear
    end

    # @return [void]
    def clear
      @lock.synchronize do
        @works = {}
        @quoted = nil
        @newest = 0
      end
    end

    # @param from [String] the number of a release, or "draft"
    # @param to [String]
    # @param now [Time]
    # @return [Hash] CartChanges of the contract
    # @raise [Problem] 404
    def changes(from, to, now: Time.now)
      sides = [side(from), side(to)]
      work = work(sides, now)
      work.join(Float(ENV.fetch("GATE_MILE_AUDIT_WAIT", WAIT)))
      work.alive? ? LATER : work.value
    end

    private

    def side(name)
      if name == "draft"
        revision, book = @shelf.current
        return Side.new("draft #{revision}", book, revision)
      end
      number = Integer(name, 10, exception: false) or raise Problem.new(404, "There is no release called so.")
      Side.new(number.to_s, @releases.book(number))
    end

    # Carts are looked at as of the hour: settings with a beginning or an end may count in the next one.
    def work(sides, now)
      key = [*sides.map(&:name), now.to_i / 3600]
      @lock.synchronize do
        @works = @works.to_a.last(KEPT - 1).to_h unless @works.key?(key)
        @newest = [@newest, *sides.filter_map(&:revision)].max
        @works[key] ||= begun(sides, now)
      end
    end

    # What goes wrong is told to whoever asks for it, and worked out anew by the next.
    def begun(sides, now)
      Thread.new { compared(*sides, now) }.tap do |thread|
        thread.report_on_exception = false
      end
    end

    # An edit ends the comparison of the draft that was there before it.
    def overtaken?(*sides) = sides.any? { |side| side.revision && side.revision < @newest }

    # In a process of its own; what has to be quoted of the older side is kept for the next time.
    def compared(from, to, now)
      asleep = asleep_now
      known = quoted(from)
      changes, found = SideProcess.run(:comparison, wanted: -> { !overtaken?(from, to) }) do
        [changed(from.book, to.book, now), new_findings(from, to.book, now, known)]
      end
      return LATER if found.nil?

      list, kept = found
      @quoted = [from.name, GateMile::QuotedFindings.new(from.book, kept: kept)]
      { ready: true, **changes, findings: list.map { |one| one.merge(asleep: asleep.include?(one["key"])) } }
    rescue StandardError
      clear
      raise
    end

    def changed(old, new, now)
      changes = GateMile::CartChanges.new(old, new, now: now)
      { whole: changes.whole?, gained: changes.zones_gained.map(&:name), lost: changes.zones_lost.map(&:name),
        carts: changes.list.map { |one| document(one, old, new) } }
    end

    def asleep_now
      Records::SleepingFinding.ids.to_set
    ensure
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end

    def document(one, old, new)
      zone = one.zone && (new.zone(one.zone) || old.zone(one.zone))
      { **one.dump.transform_keys(&:to_sym), zone: zone&.name }
    end

    # Those of the newer setup that the older one had not, and what was quoted of the older one.
    def new_findings(from, new, now, known)
      quoted = known || GateMile::QuotedFindings.new(from.book)
      before = GateMile::Audit.findings(from.book, at: now, quoted: quoted).to_set { |one| said(one) }
      later = GateMile::QuotedFindings.new(new, last: quoted)
      found = GateMile::Audit.findings(new, at: now, quoted: later).reject { |one| before.include?(said(one)) }
      [found.map { |one| { **one.dump, part: one.part.name } }, quoted.kept]
    end

    # Edits are compared with the same release one after the other: what has to be quoted for it is kept.
    # @return [QuotedFindings, nil]
    def quoted(side)
      name, found = @quoted
      found if name == side.name
    end

    # What a finding is about, however many it counts: one more or one fewer is not news.
    def said(one)
      [one.code, one.harm, one.zone, one.other, one.setting, one.numbers.reject { |_, value| value.is_a?(Integer) }]
    end
  end
end
