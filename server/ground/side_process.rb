# frozen_string_literal: true

require "etc"

module Server
  # Runs what takes long (walks, audits, comparisons, the reading of imports) in a process of its own, so that quotes do
  # not wait for it: a fork of this one, which has the compiled books already, and takes none of its connections along.
  # Only so many run at a time, one for each person; the others wait their turn. One ends early when nobody waits for
  # its result any more.
  #
  # docs/decisions/0050 says why it is a fork and no pool of workers.
  module SideProcess
    # How many run at a time: of everybody, and of one person; how many of one person may wait; the seconds that one may
    # wait, and may run.
    # An audit and a comparison leave room for somebody's walk.
    MOST = [Etc.nprocessors, 3].max
    OWN = 1
    WAITING = 3
    PATIENCE = 60
    LONGEST = 300
    # Seconds between two looks whether anybody still wants it.
    LOOK = 0.05
    # Priority below the server's, which answers quotes; with a much lower one a busy machine hardly gets to it.
    NICE = 5
    private_constant :MOST, :OWN, :WAITING, :PATIENCE, :LONGEST, :LOOK, :NICE

    # It ended without an answer. Its message says how.
    class Failed < StandardError; end

    @lock = Mutex.new
    @free = ConditionVariable.new
    @running = Hash.new(0)
    @waiting = Hash.new(0)

    class << self
      # @param who [Object] whose turn it is: a person, or what the server does by itself
      # @param wanted [#call] false once nobody waits for it any more
      # @param tell [#call, nil] hears what the block tells by the way
      # @param asked [#call, nil] answers what the block asks, from the database for example
      # @yieldparam tell [#call] takes what can be marshalled
      # @yieldparam ask [#call] takes a question, and returns the answer; both can be marshalled
      # @yieldreturn [Object] that can be marshalled: worked out without database, network and locks
      # @return [Object, nil] what the block returned; nil where nobody wanted it any more
      # @raise [Problem] 429 where too much of that person waits already, 503 where there is no turn for long
      # @raise [GateMile::Invalid, Problem] as the block raised it
      # @raise [Failed]
      def run(who, wanted: -> { true }, tell: nil, asked: nil, &work)
        in_turn(who, wanted: wanted) { apart(wanted: wanted, tell: tell, asked: asked, &work) }
      end

      # For what has to be begun in this process first, as soon as there is a turn.
      # @yield calls {apart}
      # @return [Object, nil] what the block returned; nil where nobody wanted it any more
      # @raise [Problem] as {run} does
      def in_turn(who, wanted: -> { true })
        return unless turn(who, wanted)

        begin
          yield
        ensure
          @lock.synchronize do
            leave(@running, who)
            @free.broadcast
          end
        end
      end

      # The block of {run}, in the turn that {in_turn} has taken.
      # @return [Object, nil] as {run}
      def apart(wanted: -> { true }, tell: nil, asked: nil, &work)
        SQLite3::ForkSafety.suppress_warnings! # what it has open is closed in the child, which is what we want
        lifeline, held = IO.pipe
        reader, writer = IO.pipe(binmode: true)
        answers, answer = IO.pipe(binmode: true)
        pid = forked { child(lifeline, writer, answers, work) }
        [writer, answers].each(&:close)
        heard(reader, wanted, tell, ->(question) { reply(answer, asked.call(question)) })
      ensure
        reap(pid) if pid
        [lifeline, held, reader, writer, answers, answer].compact.each(&:close)
      end

      # @return [Integer] how many run now
      def running = @lock.synchronize { @running.values.sum }

      private

      # @return [Boolean] whether it may begin; false where nobody wants it any more
      def turn(who, wanted)
        @lock.synchronize do
          if @waiting[who] >= WAITING
            raise Problem.new(429, "You have asked for several of these already. Wait for one of them.", retry_after: 5)
          end

          @waiting[who] += 1
          begin
            waits(who, wanted)
          ensure
            leave(@waiting, who)
          end
        end
      end

      # Nothing is kept of those who have none left.
      def leave(counts, who)
        counts[who] -= 1
        counts.delete(who) if counts[who].zero?
      end

      def waits(who, wanted)
        over = Database.now + PATIENCE
        until @running[who] < OWN && @running.values.sum < MOST
          return false unless wanted.call
          raise Problem.new(503, "The server is busy. Try again in a moment.", retry_after: 5) if Database.now > over

          @free.wait(@lock, LOOK)
        end
        @running[who] += 1
        true
      end

      def forked(&)
        Process.fork(&)
      rescue Errno::EAGAIN, Errno::ENOMEM
        raise Problem.new(503, "The server is busy. Try again in a moment.", retry_after: 5)
      end

      def reap(pid)
        Process.kill(:KILL, pid)
      rescue Errno::ESRCH
        nil
      ensure
        Process.wait(pid)
      end

      def heard(reader, wanted, tell, answer)
        over = Database.now + LONGEST
        loop do
          return unless wanted.call
          raise Failed, "it took too long" if Database.now > over
          next unless reader.wait_readable(LOOK)

          kind, said = frame(reader)
          case kind
          when :told then tell&.call(said)
          when :asked then answer.call(said)
          when :done then return said
          else raise said
          end
        end
      end

      # @raise [Failed] where the child ended before it had written all of it
      def frame(reader)
        Marshal.load(reader) # rubocop:disable Security/MarshalLoad -- of our own process
      rescue EOFError, ArgumentError
        raise Failed, "it ended early"
      end

      def reply(pipe, answer)
        put(pipe, answer)
      rescue Errno::EPIPE
        raise Failed, "it ended early"
      end

      # Nothing of it outlives the block, or the process that waits for it: no handler of this process runs at its end.
      # Finalizers of what only other threads hold do run in it; those of the server's libraries reach nothing outside.
      def child(lifeline, writer, answers, work)
        alone(lifeline, writer, answers)
        Thread.new do
          lifeline.read
          exit!(1)
        end
        Process.setpriority(Process::PRIO_PROCESS, 0, NICE)
        tell = ->(said) { put(writer, [:told, said]) }
        ask = lambda do |question|
          put(writer, [:asked, question])
          Marshal.load(answers) # rubocop:disable Security/MarshalLoad -- of our own process
        end
        put(writer, [:done, work.call(tell, ask)])
      rescue Exception => e # rubocop:disable Lint/RescueException -- it is told to the process that waits
        tell_error(writer, e)
      ensure
        exit!(0)
      end

      def put(pipe, frame)
        pipe.write(Marshal.dump(frame))
        pipe.flush
      end

      def tell_error(writer, error)
        known = error.is_a?(Problem) || error.is_a?(GateMile::Invalid)
        put(writer, [:failed, known ? error : unforeseen(error)])
      rescue StandardError
        nil # the other end says that it ended early
      end

      def unforeseen(error)
        message = error.message.to_s[0, 300]
        Failed.new("#{error.class}: #{message} (#{error.backtrace.to_a.first})")
      end

      # Sockets of shoppers, the lock of the folder and files of the database stay with the process that has them.
      def alone(*ours)
        kept = [0, 1, 2, *ours.map(&:fileno)]
        Dir.children("/proc/self/fd").map(&:to_i).each do |number|
          IO.for_fd(number).close unless kept.include?(number)
        rescue SystemCallError, ArgumentError
          next
        end
      end
    end
  end
end
