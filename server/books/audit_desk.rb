# frozen_string_literal: true

module Server
  # The audit of the setup as it stands, worked out in a process of its own: what is read from settings, and what has to
  # be quoted, from what the last audit came to. What takes longer is told as far as it is.
  class AuditDesk
    # Seconds that an answer waits for the quoted part.
    WAIT = 0.4
    # Seconds that a shop must stand as it is before its quoted part begins: edits often come in a row.
    REST = 0.2
    private_constant :WAIT, :REST

    # How far the quoted part is: zones that are done, and how many there are.
    Progress = Struct.new(:done, :total)

    # @param shelf [BookShelf]
    def initialize(shelf)
      @shelf = shelf
      @lock = Mutex.new
      @edited = ConditionVariable.new
      clear
    end

    # Ends what is being quoted and forgets what was.
    # @return [void]
    def clear = pause { @quoted = nil }

    # Ends what is being quoted: who waits for it is answered without. The next question begins anew.
    # @return [void]
    def pause
      @lock.synchronize do
        @book = @work = nil
        yield if block_given?
        @edited.broadcast
      end
    end

    # @param now [Time]
    # @return [Array(Array<GateMile::Finding>, Progress)] nil for the second once all of it is there
    # @raise [Problem] 404 where there is no shop
    def findings(now: Time.now)
      _, book = @shelf.current
      work = work(book)
      work.join(Float(ENV.fetch("GATE_MILE_AUDIT_WAIT", WAIT)))
      done = !work.alive? && work.value
      quoted = @quoted || Nothing
      [read(book, now, quoted, done), done ? nil : @progress]
    end

    # Where nothing has been quoted yet.
    module Nothing
      def self.list = []
    end
    private_constant :Nothing

    private

    def read(book, now, quoted, done)
      also = [now.to_date, Carriers::Port.generation, quoted.object_id, done]
      @shelf.derived(:findings, also) do |current|
        answers = Carriers::Port.kept
        counts = current.equal?(book) ? quoted : Nothing
        paid = Records::Order.lately_paid(now)
        GateMile::Audit.findings(current, at: now, answers: answers, paid: paid, quoted: counts) { Thread.pass }
      end
    end

    # One at a time for each book; a newer one takes over from what the last came to.
    def work(book)
      @lock.synchronize do
        next @work if @book.equal?(book)

        @book = book
        @edited.broadcast
        @progress = Progress.new(0, 1)
        last = @quoted
        @work = Thread.new { quote(book, last) }
      end
    end

    # @return [Boolean] whether there is no more to come of it: false where a newer book took its place
    def quote(book, last)
      return false unless quiet?(book)

      told = ->(step) { @progress = Progress.new(*step) }
      found = SideProcess.run(:audit, wanted: -> { @book.equal?(book) }, tell: told) do |tell|
        GateMile::QuotedFindings.new(book, last: last, tell: ->(*step) { tell.call(step) }).kept
      end
      @lock.synchronize do
        @quoted = GateMile::QuotedFindings.new(book, kept: found) if found && @book.equal?(book)
        @book.equal?(book)
      end
    rescue StandardError => e
      Log.fault(e, "the audit")
      true
    end

    # @return [Boolean] whether no edit came while it rested
    def quiet?(book)
      @lock.synchronize do
        @edited.wait(@lock, Float(ENV.fetch("GATE_MILE_AUDIT_REST", REST))) if @book.equal?(book)
        @book.equal?(book)
      end
    end
  end
end
