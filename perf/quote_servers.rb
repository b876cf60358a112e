# frozen_string_literal: true

require "fileutils"
require "json"
require "net/http"
require "tmpdir"
require_relative "demo"
require_relative "served"
require_relative "sizes"

# A workbench that has published the demo, and quote servers beside it, as processes of their own in a folder of their
# own: what benchmarks and soaks of them share.
class QuoteServers
  ROOT = File.expand_path("..", __dir__)
  WORKBENCH = PORTS
  # Seconds after which what has ended is started again, as deploy/*.service say.
  AGAIN = 1
  # A program that runs: what it is called, how it is started, its process.
  Running = Struct.new(:name, :env, :command, :pid)
  private_constant :ROOT, :WORKBENCH, :AGAIN, :Running

  # The workbench did not answer, or refused.
  class Unanswered < StandardError; end

  # @return [String] of a shop
  attr_reader :key
  # @return [Integer] of the workbench
  attr_reader :port

  # @return [String] file of the shop
  def database = File.join(@folder, "shop.sqlite3")

  # @yieldparam all [QuoteServers]
  # @return [void]
  def self.open
    all = new
    yield all
  ensure
    all&.close
  end

  def initialize
    @folder = Dir.mktmpdir
    @port = WORKBENCH
    @running = []
    workbench
    publish
    @key = made("Shop", %w[quotes orders])
    @own = made("Quote servers", %w[state])
  end

  # @param processes [Integer]
  # @param port [Integer]
  # @param redis [String, nil] address
  # @return [Integer] its port, once it stands
  def quotes(processes, port: WORKBENCH + 1 + processes, redis: nil)
    env = { "GATE_MILE_QUOTES" => "#{@folder}/quotes-#{port}", "GATE_MILE_PROCESSES" => processes.to_s,
            "GATE_MILE_WORKBENCH" => "http://127.0.0.1:#{WORKBENCH}", "GATE_MILE_KEY" => @own, "GATE_MILE_REDIS" => redis }
    run("quotes", env, port, File.join(ROOT, "bin/quotes"))
    wait_for(port, "/status")
    port
  end

  # @param port [Integer]
  # @return [String] the address of a Redis of their own
  def redis(port)
    run("Redis", {}, port, "redis-server", "--port", port.to_s, "--save", "", "--bind", "127.0.0.1", "--dir", @folder)
    "redis://127.0.0.1:#{port}"
  end

  # @param port [Integer]
  # @param ports [Array<Integer>] of two quote servers
  # @return [Integer] the port at which nginx answers for them, set up as in deploy/nginx.conf
  def nginx(port, ports)
    server = File.read(File.join(ROOT, "deploy/nginx.conf"))
    [8080, 4191, 4192].zip([port, *ports]) { |there, here| server.sub!("127.0.0.1:#{there}", "127.0.0.1:#{here}") }
    paths = { client_body: "body", proxy: "proxy", fastcgi: "f", uwsgi: "u", scgi: "s" }
    http = paths.map { |name, path| "#{name}_temp_path #{@folder}/#{path};" }.join(" ")
    file = File.join(@folder, "nginx.conf")
    File.write(file, "daemon off; pid #{@folder}/nginx.pid; error_log #{@folder}/nginx.log;\nevents {}\n" \
                     "http { access_log off; #{http}\n#{server}\n}\n")
    run("nginx", {}, port, "nginx", "-p", @folder, "-c", file)
    wait_for(port, "/", "404")
    port
  end

  # Restarts whatever ends, as a service manager does.
  # @return [void]
  def keep = @keeper = Thread.new { loop { @running.each { |one| again(one) } && sleep(0.1) } }

  # @param name [String] workbench, quotes, Redis or nginx
  # @return [Array<Integer>] processes that run under it
  def running(name) = @running.select { |one| one.name == name }.filter_map(&:pid)

  # @return [Hash] of the demo's first ten goods
  def cart
    products = ask(:Get, "/api/products?limit=10")["products"]
    { lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
      destination: { country: "GB", postcode: "TR29 4ZZ" } }
  end

  # @param asking [Symbol] ask, or asked where a refusal does not end the benchmark
  # @return [Hash] what is live now
  def publish(asking = :ask)
    revision = send(asking, :Get, "/api/setup")["revision"]
    send(asking, :Post, "/api/releases", { revision: revision, overrule: "As measured" })
  end

  # @return [Hash] what the workbench answers; a refusal ends the benchmark
  def ask(...)
    asked(...)
  rescue Unanswered => e
    abort e.message
  end

  # @return [Hash] what the workbench answers
  # @raise [Unanswered] where it refuses
  def asked(verb, path, body = nil, key = nil)
    request = Net::HTTP.const_get(verb).new(path, { "content-type" => "application/json" })
    request["authorization"] = "Bearer #{key}" if key
    request.body = JSON.generate(body) if body
    answer = Net::HTTP.start("127.0.0.1", WORKBENCH, read_timeout: 120) { |http| http.request(request) }
    raise Unanswered, "#{verb} #{path}: #{answer.code} #{answer.body[0, 300]}" unless answer.is_a?(Net::HTTPSuccess)

    JSON.parse(answer.body)
  end

  # @return [void] ends all of it, and removes the folder
  def close
    @keeper&.kill
    @running.filter_map(&:pid).each do |pid|
      Process.kill(:TERM, -pid)
    rescue Errno::ESRCH
      nil
    end
    Process.waitall
    FileUtils.rm_rf(@folder)
  end

  private

  def workbench
    env = { "GATE_MILE_DATABASE" => database }
    DemoShop.into(database)
    run("workbench", env, WORKBENCH, "bundle", "exec", "puma", "-C", "server/puma.rb", "server/config.ru")
    wait_for(WORKBENCH, "/api/setup")
  end

  def run(name, env, port, *command)
    @running << Running.new(name, { **env, **AS_SERVED, "PORT" => port.to_s }, command)
    start(@running.last)
  end

  def start(one) = one.pid = spawn(one.env, *one.command, chdir: ROOT, pgroup: true, out: File::NULL)

  # What is left of its group ends with it.
  def again(one)
    return unless Process.wait(one.pid, Process::WNOHANG)

    group = one.pid
    one.pid = nil
    begin
      Process.kill(:KILL, -group) if one.name == "nginx"
    rescue Errno::ESRCH
      nil
    end
    sleep AGAIN
    start(one)
  end

  def made(name, calls) = ask(:Post, "/api/keys", { name: name, calls: calls, pace: 100_000 }).fetch("key")

  def wait_for(port, path, code = "200")
    240.times do
      return if Net::HTTP.get_response("127.0.0.1", path, port).code == code
    rescue SystemCallError, EOFError
      nil
    ensure
      sleep 0.25
    end
    abort "nothing at #{port}"
  end
end
