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

  # The types are looked at too: the compiler of the web's own, strict. All files in one go, once.
  # @return [String] folder with what became of the client's files
  def self.compiled
    @compiled ||= Dir.mktmpdir.tap do |folder|
      Minitest.after_run { FileUtils.rm_rf(folder) }
      out, status = Open3.capture2e("node", "-e", <<~JS, folder, *Dir[File.join(CLIENTS, "typescript/*.ts")])
        const ts = require(#{File.join(Server::ROOT, "web/node_modules/typescript").to_json})
        const { readFileSync, writeFileSync } = require('fs')
        const [folder, ...sources] = process.argv.slice(1)
        const options = { strict: true, noEmit: true, allowImportingTsExtensions: true, target: 99, module: 199, lib: ['lib.esnext.d.ts', 'lib.dom.d.ts'],
          skipLibCheck: true, types: ['node'], typeRoots: [#{File.join(Server::ROOT, "web/node_modules/@types").to_json}] }
        const wrong = ts.getPreEmitDiagnostics(ts.createProgram(sources, options))
        if (wrong.length) { console.log(ts.formatDiagnostics(wrong, { getCanonicalFileName: (n) => n, getCurrentDirectory: () => '', getNewLine: () => '\\n' })); process.exit(1) }
        for (const source of sources) {
          const { outputText } = ts.transpileModule(readFileSync(source, 'utf8'), { compilerOptions: { target: 99, module: 99 } })
          writeFileSync(folder + '/' + require('path').basename(source, '.ts') + '.mjs', outputText.replaceAll(".ts'", ".mjs'"))
        }
      JS
      raise out unless status.success?
    end
  end

  # Both receivers, as they stand: what the workbench sends is taken once; what is forged, old or without a signature is not.
  def test_receivers_of_webhooks
    node = ["node", File.join(ClientsTest.compiled, "webhook-receiver.mjs"), "0"]
    [[RbConfig.ruby, File.join(CLIENTS, "ruby/webhook_receiver.rb"), "0"], node].each { |command| receives(command) }
  end

  def receives(command)
    secret = Server::WebhookSignature.secret
    IO.popen({ "WEBHOOK_SECRET" => secret }, command, err: %i[child out]) do |receiver|
      url = URI(receiver.gets[/http\S+/])
      post = ->(headers, body) { Net::HTTP.post(url, body, headers).code }
      body = JSON.generate({ type: "release.published", timestamp: "2026-12-01T10:00:00Z", data: { release: 7, note: "Größe ✓" } })
      sign = ->(id, at = Time.now, key = secret) { Server::WebhookSignature.headers(key, id, at, body) }
      assert_equal %w[204 204], Array.new(2) { post.call(sign.call("msg_1"), body) }, "the second time it is known"
      assert_equal("400", post.call(sign.call("msg_2", Time.now - 400), body))
      assert_equal("400", post.call(sign.call("msg_2", Time.now + 400), body))
      assert_equal("400", post.call(sign.call("msg_2"), body.sub("7", "8")))
      assert_equal("400", post.call(sign.call("msg_2", Time.now, Server::WebhookSignature.secret), body))
      assert_equal("400", post.call({}, body))
      both = sign.call("msg_3").then { |signed| signed.merge("webhook-signature" => "v1,AAAA #{signed["webhook-signature"]}") }
      assert_equal("204", post.call(both, body))
      Process.kill(:TERM, receiver.pid)
      said = receiver.read
      assert_equal([2, 1, 2], [/release\.published at 2026.*Größe/, /taken before/, /too long ago/].map { |line| said.scan(line).size })
      assert_equal 2, said.scan("the signature is another one").size
    end
  end

  def told(name) = /TRACKED: 5\.95 GBP.*Order #{name} pays \d+\.\d\d by release 1\n#{name} is cancelled/m

  def test_the_examples
    out, = Open3.capture2e(RbConfig.ruby, File.join(CLIENTS, "ruby/example.rb"), address, @key)
    assert_match told("ruby-1"), out
    out, = Open3.capture2e("node", File.join(ClientsTest.compiled, "example.mjs"), address, @key)
    assert_match told("ts-1"), out
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
