# frozen_string_literal: true

require "fileutils"
require "json"
require "net/http"
require "tmpdir"
require_relative "served"
require_relative "sizes"

# A workbench that has published the demo, and quote servers beside it, as processes of their own in a folder of their
# own: what benchmarks and soaks of them share.
class QuoteServers
  ROOT = File.expand_path("..", __dir__)
  WORKBENCH = PORTS
  private_constant :ROOT, :WORKBENCH

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
    @pids = []
    workbench
    publish
    @key = made("Shop", %w[quotes orders])
    @own = made("Quote servers", %w[state])
  end

  # @param processes [Integer]
  # @param port [Integer]
  # @return [Integer] its port, once it stands
  def quotes(processes, port: WORKBENCH + 1 + processes)
    env = { "GATE_MILE_QUOTES" => "#{@folder}/quotes-#{port}", "GATE_MILE_PROCESSES" => processes.to_s,
            "GATE_MILE_WORKBENCH" => "http://127.0.0.1:#{WORKBENCH}", "GATE_MILE_KEY" => @own }
    run(env, port, File.join(ROOT, "bin/quotes"))
    wait_for(port, "/status")
    port
  end

  # @return [Hash] of the demo's first ten goods
  def cart
    products = ask(:Get, "/api/products?limit=10")["products"]
    { lines: products.map { |product| { sku: product["sku"], quantity: 3 } },
      destination: { country: "GB", postcode: "TR29 4ZZ" } }
  end

  # @return [Hash] what is live now
  def publish
    ask(:Post, "/api/releases", { revision: ask(:Get, "/api/setup")["revision"], overrule: "As measured" })
  end

  # @return [Hash] what the workbench answers
  def ask(verb, path, body = nil, key = nil)
    request = Net::HTTP.const_get(verb).new(path, { "content-type" => "application/json" })
    request["authorization"] = "Bearer #{key}" if key
    request.body = JSON.generate(body) if body
    answer = Net::HTTP.start("127.0.0.1", WORKBENCH, read_timeout: 120) { |http| http.request(request) }
    abort "#{verb} #{path}: #{answer.code} #{answer.body[0, 300]}" unless answer.is_a?(Net::HTTPSuccess)

    JSON.parse(answer.body)
  end

  # @return [void] ends all of it, and removes the folder
  def close
    @pids.each do |pid|
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
    system(env.merge(AS_SERVED), "bundle", "exec", "ruby", "server/prepare.rb", chdir: ROOT, exception: true)
    run(env, WORKBENCH, "bundle", "exec", "puma", "-C", "server/puma.rb", "server/config.ru")
    wait_for(WORKBENCH, "/api/setup")
  end

  def run(env, port, *command)
    @pids << spawn({ **env, **AS_SERVED, "PORT" => port.to_s }, *command, chdir: ROOT, pgroup: true, out: File::NULL)
  end

  def made(name, calls) = ask(:Post, "/api/keys", { name: name, calls: calls, pace: 100_000 }).fetch("key")

  def wait_for(port, path)
    240.times do
      return if Net::HTTP.get_response("127.0.0.1", path, port).code == "200"
    rescue SystemCallError, EOFError
      nil
    ensure
      sleep 0.25
    end
    abort "nothing at #{port}"
  end
end
