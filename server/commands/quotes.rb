# frozen_string_literal: true

# Runs a quote server and its courier, and starts either again when it ends:  ruby server/commands/quotes.rb
# Ctrl+C, or TERM, ends all of it. Whatever ends this process, its children end with it.

# One program that is kept running.
class Kept
  # Seconds before a program that ended is started again; a program that has run for a while starts at once.
  WAITS = [0.2, 1, 2, 5, 10].freeze
  STEADY = 30

  attr_reader :pid

  def initialize(name, command)
    @name = name
    @command = command
    @ends = 0
  end

  def start(lifeline)
    @started = now
    @pid = spawn({ "GATE_MILE_LIFELINE" => "1" }, *@command, in: lifeline)
  end

  def ended(status)
    @ends = now - @started > STEADY ? 0 : @ends + 1
    @again = now + WAITS[[@ends, WAITS.size - 1].min]
    @pid = nil
    warn "#{Time.now.utc.strftime("%FT%TZ")} the #{@name} ended (#{status}) and is started again"
  end

  def due? = @pid.nil? && now >= @again.to_f
  def stop = @pid && Process.kill(:TERM, @pid)

  private

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
end

puma = ["bundle", "exec", "puma", "-C", "server/quotes_puma.rb", "server/quotes.ru"]
courier = ["bundle", "exec", "ruby", "server/courier.rb"]
all = [Kept.new("quote server", puma)]
all << Kept.new("courier", courier) unless ENV["GATE_MILE_WORKBENCH"].to_s.empty?

# Nobody writes to it: children read its end when this process is gone.
lifeline, held = IO.pipe
stopping = false
%i[INT TERM].each { |signal| trap(signal) { stopping = true } }
until stopping
  all.select(&:due?).each { |one| one.start(lifeline) }
  all.select(&:pid).each do |one|
    pid, status = Process.wait2(one.pid, Process::WNOHANG)
    one.ended(status) if pid && !stopping
  end
  sleep 0.1
end
all.each(&:stop)
Process.waitall
held.close
