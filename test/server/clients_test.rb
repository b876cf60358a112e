# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../../clients/ruby/gate_mile_checkout"
require "open3"
require "puma"
require "puma/server"

# The small clients, over real HTTP, and their examples as they stand.
class ClientsTest < Minitest::Test
  include CheckoutSupport

  CLIENTS = File.join(Server::ROOT, "clients")

  def setup
    fresh(WHOLE_DEMO)
    @key = key_for
    publish
    @server = Puma::Server.new(STACK, nil, { min_threads: 1, max_threads: 4, log_writer: Puma::LogWriter.null })
    @port = @server.add_tcp_listener("127.0.0.1", 0).addr[1]
    @server.run
  end

  def teardown = @server.stop(true)

  def address = "http://127.0.0.1:#{@port}"
  def door(key = @key) = GateMileCheckout.new(address, key)

  # The types are looked at too: the compiler of the web's own, strict.
  def typescript(file, *arguments)
    Dir.mktmpdir do |folder|
      %w[gate-mile-checkout example].each do |name|
        out, status = Open3.capture2e("node", "-e", <<~JS, File.join(CLIENTS, "typescript", "#{name}.ts"), File.join(folder, "#{name}.mjs"))
          const ts = require(#{File.join(Server::ROOT, "web/node_modules/typescript").to_json})
          const [source, target] = process.argv.slice(1)
          const options = { strict: true, noEmit: true, allowImportingTsExtensions: true, target: 99, module: 199, lib: ['lib.esnext.d.ts', 'lib.dom.d.ts'],
            types: ['node'], typeRoots: [#{File.join(Server::ROOT, "web/node_modules/@types").to_json}] }
          const wrong = ts.getPreEmitDiagnostics(ts.createProgram([source], options))
          if (wrong.length) { console.log(ts.formatDiagnostics(wrong, { getCanonicalFileName: (n) => n, getCurrentDirectory: () => '', getNewLine: () => '\\n' })); process.exit(1) }
          const { outputText } = ts.transpileModule(require('fs').readFileSync(source, 'utf8'), { compilerOptions: { target: 99, module: 99 } })
          require('fs').writeFileSync(target, outputText.replace('gate-mile-checkout.ts', 'gate-mile-checkout.mjs'))
        JS
        assert status.success?, out
      end
      Open3.capture2e("node", File.join(folder, "#{file}.mjs"), *arguments).first
    end
  end

  def told(name) = /TRACKED: 5\.95 GBP.*Order #{name} pays \d+\.\d\d by release 1\n#{name} is cancelled/m

  def test_the_examples
    out, = Open3.capture2e(RbConfig.ruby, File.join(CLIENTS, "ruby/example.rb"), address, @key)
    assert_match told("ruby-1"), out
    assert_match told("ts-1"), typescript("example", address, @key)
    assert_equal %w[cancelled cancelled], Server::Records::Order.all.map(&:state)
  end

  def test_in_ruby
    quote = door.quote(cart, detail: "prices", deadline_ms: 500, idempotency_key: "once")
    assert_equal quote, door.quote(cart, detail: "prices", deadline_ms: 500, idempotency_key: "once")
    assert_equal([nil, "problem"], door.quotes([cart, { lines: 3 }]).map { |one| one.keys.first if one.key?("problem") })
    assert_equal "placed", door.order("a b/c", quote: quote["quote"], method: "TRACKED")["state"]
    assert_equal "returned", door.returned("a b/c")["state"]
    assert_includes door.methods_offered.map { |one| one["code"] }, "TRACKED"
    assert_includes door.served.map { |one| one["country"] }, "GB"
    refute_empty door.offers
  end

  def test_what_is_refused
    refused = assert_raises(GateMileCheckout::Refused) { door("gmk_none").quote(cart) }
    assert_equal [401, nil, false], [refused.status, refused.retry_after, refused.ran_out?]
    quote = door.quote(cart)["quote"]
    later(1000) do
      ran_out = assert_raises(GateMileCheckout::Refused) { door.order("1", quote: quote, method: "TRACKED") }
      assert_predicate ran_out, :ran_out?
      assert_equal %w[5.95 5.95], ran_out.problem.values_at("promised", "now")
      assert_equal "placed", door.order("1", quote: ran_out.problem.dig("quote", "quote"), method: "TRACKED")["state"]
    end
    @server.stop(true)
    assert_raises(GateMileCheckout::Unreachable) { door.quote(cart) }
  end
end
