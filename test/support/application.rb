# frozen_string_literal: true

# Runs the application for browser tests in its own process. It prints its address as one line of JSON, answers calls from
# Apart, and exits with the process that started it.
require "minitest"
# Nothing is tested here.
def Minitest.autorun = nil

told = $stdout.dup
$stdout.reopen($stderr)
require_relative "server"
require_relative "turnstile"
require_relative "../../server/http/kept_alive"
require "bcrypt"
require "drb/unix"
require "puma"
require "puma/server"

# What tests may do inside of the application beside asking it.
class Application
  include ServerSupport

  # Time goes on from another moment.
  module Later
    class << self
      attr_accessor :seconds
    end
    self.seconds = 0

    def now(...) = super + Later.seconds
  end
  Time.singleton_class.prepend(Later)

  # @return [Turnstile]
  attr_reader :turnstile

  def initialize
    @turnstile = Turnstile.new(STACK)
    @puma = Puma::Server.new(turnstile, nil, { min_threads: 1, max_threads: 16, first_data_timeout: 5, log_writer: Puma::LogWriter.null })
    @port = @puma.add_tcp_listener("127.0.0.1", 0).addr[1]
    @puma.run
  end

  # @return [Hash] where it is
  def place(control) = { origin: "http://127.0.0.1:#{@port}", database: ENV.fetch("GATE_MILE_DATABASE"), control: control }

  # @return [Hash] the demo as one book
  def demo = WHOLE_DEMO

  # @param book [Symbol, Hash, nil] :flat and :whole are the two demos
  def fresh(book)
    super({ flat: DEMO, whole: WHOLE_DEMO }.fetch(book, book))
    nil
  end

  # @param name [String] of the environment
  # @param value [String, nil]
  def set(name, value) = ENV[name] = value

  # To make a password and to try one takes a while, on purpose.
  def quick_passwords(quick)
    BCrypt::Engine.cost = quick ? BCrypt::Engine::MIN_COST : BCrypt::Engine::DEFAULT_COST
  end

  # Nobody asks any more: what waits is answered.
  def rest
    Later.seconds = 0
    turnstile.open
    Server::App.settings.audits.pause
    turnstile.wait
  end

  def later(seconds)
    Later.seconds = seconds
  end

  # What the server does by itself, so many seconds from now.
  def round(seconds)
    Server::App.settings.duties.round(Time.now + seconds)
    nil
  end

  def carriers_at(origin)
    CarriersSupport.point(origin)
    nil
  end

  def forget_answers
    Server::Carriers::Port.clear
    nil
  end

  # What checkouts have asked is stored.
  def store_asked
    Server::AskedRows.store(Server::App.settings.checkout.asked.take)
    nil
  end

  # A file of goods is on its way into the database until this is called with false.
  def storing(going_on)
    return @stored.push(true) && @storing.join && nil unless going_on

    @stored = Queue.new
    open = Queue.new
    @storing = Thread.new do
      Server::LongChange.run("import", "product") do |change|
        open << true
        @stored.pop
        change.finish({})
      end
    ensure
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end
    open.pop
    nil
  end
end

require_relative "carriers"
control = "drbunix:#{File.join(File.dirname(ENV.fetch("GATE_MILE_DATABASE")), "control")}"
application = Application.new
DRb.start_service(control, application)
told.puts(JSON.generate(application.place(control)))
told.close
$stdin.read
FileUtils.rm_rf(File.dirname(ENV.fetch("GATE_MILE_DATABASE")))
exit!(0)
