# frozen_string_literal: true

require_relative "../support/server"
require "net/http"
require "open3"

# A server of its own on a disk of its own, which is full for a while, can't be written, or is damaged. Needs root, to mount one.
class DiskTest < Minitest::Test
  include ServerSupport

  def setup
    @folder = Dir.mktmpdir
    skip "only root mounts a disk" unless system("mount", "-t", "tmpfs", "-o", "size=12m", "none", @folder, err: File::NULL)
    @mounted = true
    @env = { "GATE_MILE_DATABASE" => File.join(@folder, "shop.sqlite3"), "GATE_MILE_DUTIES" => nil, "PORT" => free_port.to_s }
  end

  def teardown
    if @pid
      Process.kill(:TERM, @pid)
      Process.wait(@pid)
    end
    system("umount", "-l", @folder) if @mounted
    FileUtils.rm_rf(@folder)
  end

  def free_port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }

  def prepare(*options) = Open3.capture2e(@env, RbConfig.ruby, "server/prepare.rb", *options, chdir: Server::ROOT)

  def serve
    @pid = spawn(@env, "bundle", "exec", "puma", "-C", "server/puma.rb", "server/config.ru", chdir: Server::ROOT, out: File::NULL, err: File::NULL)
    600.times { (sleep 0.1) && up? && break }
  end

  def up?
    sent(:get, "/health").code == "200"
  rescue SystemCallError
    false
  end

  def sent(verb, path, body = nil, **headers)
    request = Net::HTTP.const_get(verb.capitalize).new(path, { "content-type" => "application/json", **headers.transform_keys(&:to_s) })
    request.body = JSON.generate(body) if body
    Net::HTTP.start("127.0.0.1", Integer(@env["PORT"])) { |http| http.request(request) }
  end

  def ready = sent(:get, "/ready").then { |answer| [answer.code, JSON.parse(answer.body)["why"]] }

  # Whatever writes says that there is no room, and whatever reads goes on; with room again all of it works.
  def test_a_disk_that_is_full
    said, done = prepare("--open")
    assert_predicate done, :success?, said
    serve
    key = "Bearer #{JSON.parse(File.read(File.join(@folder, "demo-shop.json")))["server"]}"
    ask = ->(call, body) { sent(:post, "/checkout/v1/#{call}", body, authorization: key) }
    quote = JSON.parse(ask.call("quotes", { cart: CART }).body)
    assert_equal ["200", nil], ready
    revision = JSON.parse(sent(:post, "/api/zones", { name: "One more" }).body)["revision"] || JSON.parse(sent(:get, "/api/setup").body)["revision"]
    fill = File.join(@folder, "fill")
    system("dd", "if=/dev/zero", "of=#{fill}", "bs=1024", err: File::NULL)
    writes = { edit: -> { sent(:post, "/api/zones", { name: "Two more" }) },
               order: -> { ask.call("orders", { order: "1", quote: quote["quote"], method: quote["methods"].first["code"] }) },
               publishing: -> { sent(:post, "/api/releases", { revision: revision, overrule: "No room" }) },
               account: -> { sent(:post, "/api/joining/first", { name: "Ann", email: "ann@shop.example", password: "lantern gravel spoon" }) } }
    writes.each { |name, write| 3.times { assert_equal "507", write.call.code, name } }
    assert_equal "200", ask.call("quotes", { cart: CART }).code
    assert_equal "503", ready.first
    File.unlink(fill)
    50.times { ready.first == "200" ? break : sleep(0.1) }
    assert_equal "200", ready.first
    assert_equal(%w[201 201 201], writes.values_at(:edit, :order, :account).map { |write| write.call.code })
  end

  # Said in one sentence, without a trace: to a start, and to a preparation.
  def test_a_disk_that_can_not_be_written
    said, done = prepare("--empty")
    assert_predicate done, :success?, said
    system("mount", "-o", "remount,ro", @folder, exception: true)
    starts("it can't be written. Give the account that runs Gate Mile write access to it and to its folder.")
    system("mount", "-o", "remount,rw", @folder, exception: true)
    File.write(@env["GATE_MILE_DATABASE"], "no database at all, but a text that is longer than a header " * 100)
    starts("it is damaged. Move it away and bring back a backup with bin/restore (docs/backup.md).")
  end

  def starts(why)
    expected = "Gate Mile does not start: #{@env["GATE_MILE_DATABASE"]} can't be used: #{why}"
    said, done = prepare
    assert_equal [1, [expected]], [done.exitstatus, said.lines.map(&:strip)]
    said, done = Open3.capture2e(@env, "bundle", "exec", "puma", "-C", "server/puma.rb", "server/config.ru", chdir: Server::ROOT)
    refute_predicate done, :success?
    assert_includes said, expected
    refute_match(/^\s+from |\.rb:\d+:in/, said)
  end
end
