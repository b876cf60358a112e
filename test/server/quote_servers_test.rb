# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../../clients/ruby/gate_mile_checkout"
require "puma"
require "puma/server"

# The whole as docs/deploy.md tells it: a workbench, two quote servers behind nginx, one of them killed under load, a release
# that changes under load, and the workbench away for a while.
class QuoteServersTest < Minitest::Test
  include CheckoutSupport

  ROOT = Server::ROOT
  PRICES = { 1 => "5.95", 2 => "6.95" }.freeze

  def setup
    fresh(WHOLE_DEMO)
    @folder = Dir.mktmpdir
    @pids = []
    publish
    @key = key_for("Shop", pace: 100_000)
    @own = key_for("Quote servers", calls: %w[state])
  end

  def teardown
    @pids.each { |pid| stop(pid, :TERM) }
    @workbench&.stop(true)
    FileUtils.rm_rf(@folder)
  end

  def free_port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }

  def open_workbench(port = 0)
    @workbench = Puma::Server.new(STACK, nil, { min_threads: 1, max_threads: 8, log_writer: Puma::LogWriter.null })
    @port = @workbench.add_tcp_listener("127.0.0.1", port).addr[1]
    @workbench.run
  end

  def quotes(name, port, processes: 2)
    env = { "GATE_MILE_QUOTES" => File.join(@folder, name), "PORT" => port.to_s, "GATE_MILE_PROCESSES" => processes.to_s,
            "GATE_MILE_WORKBENCH" => "http://127.0.0.1:#{@port}", "GATE_MILE_KEY" => @own }
    spawn(env, File.join(ROOT, "bin/quotes"), pgroup: true, out: File::NULL, err: File.join(@folder, "#{name}.log")).tap { |pid| @pids << pid }
  end

  def nginx(ports)
    port = free_port
    server = File.read(File.join(ROOT, "deploy/nginx.conf")).sub("127.0.0.1:8080", "127.0.0.1:#{port}")
    %w[4191 4192].zip(ports) { |there, here| server.sub!("127.0.0.1:#{there}", "127.0.0.1:#{here}") }
    file = File.join(@folder, "nginx.conf")
    File.write(file, "daemon off; pid #{@folder}/nginx.pid; error_log #{@folder}/nginx.log;\nevents {}\nhttp { access_log off; " \
                     "client_body_temp_path #{@folder}/body; proxy_temp_path #{@folder}/proxy; fastcgi_temp_path #{@folder}/f; " \
                     "uwsgi_temp_path #{@folder}/u; scgi_temp_path #{@folder}/s;\n#{server}\n}\n")
    @pids << spawn("nginx", "-p", @folder, "-c", file, pgroup: true, out: File::NULL, err: File::NULL)
    port
  end

  # The whole group of a server, and its end.
  def stop(pid, signal)
    Process.kill(signal, -pid)
    Process.wait(pid)
  rescue Errno::ESRCH, Errno::ECHILD
    nil
  end

  def standing(port)
    JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{port}/status")))
  rescue SystemCallError, EOFError
    {}
  end

  def wait_until(what, seconds = 60)
    (seconds * 10).times do
      return if yield

      sleep 0.1
    end
    flunk "#{what}: #{Dir[File.join(@folder, "*.log")].map { |file| File.read(file)[-500..] }.join}"
  end

  # Asks without a pause until it is told to stop.
  # @return [Array(Queue, Array<Thread>)] answers as release and price, or what went wrong
  def load_on(door, threads = 3)
    answers = Queue.new
    running = Array.new(threads) do
      Thread.new do
        until Thread.current[:stop]
          answers << begin
            door.quote(cart, detail: "prices").then { |one| [one["release"], price(one)] }
          rescue StandardError => e
            e.message
          end
        end
      end
    end
    [answers, running]
  end

  def drained(answers, threads)
    threads.each { |thread| thread[:stop] = true }.each(&:join)
    Array.new(answers.size) { answers.pop }
  end

  def test_two_behind_nginx
    open_workbench
    ports = [free_port, free_port]
    servers = ports.each_with_index.map { |port, at| quotes("q#{at}", port) }
    ports.each { |port| wait_until("a quote server") { standing(port)["release"] == 1 } }
    door = GateMileCheckout.new("http://127.0.0.1:#{nginx(ports)}", @key)
    wait_until("nginx") do
      door.quote(cart)
    rescue StandardError
      false
    end
    answers, threads = load_on(door)
    sleep 1.5
    reprice("uk-tracked", "6.95")
    publish(overrule: "The new tariff")
    ports.each { |port| wait_until("the new release") { standing(port)["release"] == 2 } }
    sleep 1
    stop(servers.first, :KILL)
    sleep 2
    heard = drained(answers, threads)
    failed = heard.grep(String)
    assert_empty failed.tally, "of #{heard.size}"
    assert_empty heard.reject { |release, price| PRICES[release] == price }, "no answer of two releases"
    assert_equal [1, 2], heard.map(&:first).uniq.sort
    orders_wait(door, ports.last)
    courier_dies(ports.last)
  end

  # The courier is killed: it runs again by itself, and brings the next release. The age of what it brought is told.
  def courier_dies(port)
    ready = -> { JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{port}/ready"))) }
    assert_operator ready.call["workbench_answered_seconds"], :<, 10
    couriers = `pgrep -f server/courier.rb -P #{@pids[1]}`.split.map(&:to_i)
    assert_equal 1, couriers.size
    Process.kill(:KILL, couriers.first)
    reprice("uk-tracked", "7.45")
    publish(overrule: "Dearer still")
    wait_until("the release after it was killed") { standing(port)["release"] == 3 }
    refute_equal couriers, `pgrep -f server/courier.rb -P #{@pids[1]}`.split.map(&:to_i)
    metrics = Net::HTTP.get(URI("http://127.0.0.1:#{port}/metrics"))
    %w[release_age workbench_answered oldest_order].each { |name| assert_match(/^gate_mile_#{name}\S* \d/, metrics) }
  end

  # The workbench goes away and comes back: quotes go on, orders arrive, each once.
  def orders_wait(door, port)
    quote = door.quote(cart)
    here = door.order("7", quote: quote["quote"], method: "TRACKED")
    assert_equal ["placed", "6.95"], here.values_at("state", "price")
    address = @port
    @workbench.stop(true)
    assert_equal "6.95", price(door.quote(cart))
    waiting = %w[8 9].map { |number| door.order(number, quote: quote["quote"], method: "TRACKED") }
    assert_equal([["waiting", "6.95"]] * 2, waiting.map { |one| one.values_at("state", "price") })
    door.order("8", quote: quote["quote"], method: "TRACKED")
    assert_equal "waiting", door.cancel("9")["state"]
    assert_equal 4, standing(port)["waiting"]
    refused = assert_raises(GateMileCheckout::Refused) { door.order("10", quote: "gmq_x", method: "TRACKED") }
    assert_equal 422, refused.status
    open_workbench(address)
    wait_until("the orders") { standing(port)["waiting"].zero? }
    assert_equal [%w[7 placed], %w[8 placed], %w[9 cancelled]], Server::Records::Order.order(:number).pluck(:number, :state)
    assert_equal ["Shop"], Server::Records::Order.distinct.pluck(:key_name)
  end
end
