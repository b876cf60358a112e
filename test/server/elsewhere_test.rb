# frozen_string_literal: true

require "support/server"
require "puma"
require "puma/server"
require "net/http"
require "open3"

# The server on an address that is not the loopback's own: nothing is reachable without an account.
class ElsewhereTest < Minitest::Test
  include ServerSupport

  ADDRESS = "127.0.0.2"
  # What says nothing of the shop: the page itself, and that the server is there.
  NOTHING = %w[/ /joining /health /ready /favicon.svg].freeze

  def setup
    fresh
    BCrypt::Engine.cost = BCrypt::Engine::MIN_COST
    @server = Puma::Server.new(STACK, Puma::Events.new, min_threads: 0, max_threads: 4, log_writer: Puma::LogWriter.null)
    @port = @server.add_tcp_listener(ADDRESS, 0).addr[1]
    @server.run
  end

  def teardown
    @server.stop(true)
    BCrypt::Engine.cost = BCrypt::Engine::DEFAULT_COST
  end

  def ask(verb, path, body = nil, **headers)
    Net::HTTP.start(ADDRESS, @port) do |http|
      request = Net::HTTP.const_get(verb.capitalize).new(path,
                                                         { "host" => "localhost", "content-type" => "application/json" }.merge(headers.transform_keys(&:to_s)))
      request.body = JSON.generate(body) if body
      http.request(request)
    end
  end

  def every_call
    Server::Contract.source["paths"].flat_map { |path, verbs| (verbs.keys & %w[get post put patch delete]).map { |verb| [verb, path.gsub(/\{\w+\}/, "1")] } }
  end

  def test_nothing_without_an_account
    free, others = every_call.partition { |_, path| path.match?(%r{\A/api/(session|joining)}) }
    others.each { |verb, path| assert_equal "401", ask(verb, path, verb == "get" ? nil : {}).code, "#{verb} #{path}" }
    state = JSON.parse(ask("get", "/api/session").body)
    assert_equal({ "person" => nil, "accounts" => false, "open" => false }, state)
    free.reject { |verb, path| %w[get delete].include?(verb) && path == "/api/session" }.each do |verb, path|
      refute_match(/\A2/, ask(verb, path, {}).code, "#{verb} #{path}")
    end
    first = ask("post", "/api/joining/first", { name: "Mallory", email: "m@x.example", password: "lantern gravel whistle" })
    assert_equal "403", first.code, "who comes first is no owner by that"
    NOTHING.each { |path| refute_match(/Tarrow/, ask("get", path).body.to_s, path) }
  end

  # However an address is spelled: routes take letters that are written as their codes for the letters.
  def test_nothing_by_another_spelling
    Server::People.invite("owner")
    %w[/%61pi/setup /a%70i/setup /api/%73etup /%61%70%69/backups/now /api%2Fsetup //api/setup /./api/setup /api/setup/ /API/setup /api/../api/setup
       /%2561pi/setup /;/api/setup /api;x/setup /%61pi/zones%2ecsv /api//setup].each do |path|
      refute_match(/Tarrow|mainland|SQLite/, ask("get", path).body.to_s, path)
    end
    assert_equal(%w[401 401 401], %w[/%61pi/setup /a%70i/setup /%61pi/zones%2ecsv].map { |path| ask("get", path).code })
    assert_equal "401", ask("post", "/%61pi/zones", { name: "X" }).code
    assert_equal "401", ask("delete", "/api/k%65ys/1").code
  end

  # The way in: a link that the machine itself has printed.
  def test_the_first_owner_comes_by_a_link_of_the_machine
    words = Server::People.invite("owner")[1]
    joined = ask("post", "/api/joining", { link: words, name: "Ann", email: "ann@tarrow.example", password: "lantern gravel whistle" })
    assert_equal "201", joined.code
    cookie = joined["set-cookie"][/\A[^;]+/]
    assert_equal "200", ask("get", "/api/setup", nil, "cookie" => cookie).code
    assert_equal "401", ask("get", "/api/setup").code
    assert_equal "401", ask("get", "/api/setup", nil, "cookie" => "#{cookie}x").code
    # A page of another site has the cookie of nobody, and is refused besides (SameSite, Origin, Fetch Metadata).
    assert_equal "403", ask("post", "/api/zones", { name: "X" }, "cookie" => cookie, "origin" => "https://evil.example").code
    assert_equal "403", ask("get", "/api/setup", nil, "cookie" => cookie, "sec-fetch-site" => "cross-site").code
  end

  # Where a browser is told to go has to be a name that the server answers to.
  ADDRESSES = { { "BIND" => "0.0.0.0" } => "http://127.0.0.1:4180", { "BIND" => "192.0.2.7", "PORT" => "80" } => "http://192.0.2.7:80", {} => "http://127.0.0.1:4180",
                { "GATE_MILE_HOSTS" => "ship.example, other.example" } => "https://ship.example" }.freeze

  def test_the_address_in_links_is_answered
    ADDRESSES.each do |env, address|
      before = ENV.to_h.slice(*env.keys)
      ENV.update(env)
      assert_equal address, Server::Settings.address
      assert_includes Server::Settings.hosts, URI(address).host
    ensure
      env.each_key { |name| ENV[name] = before[name] }
    end
  end

  # bin/people, as it is run on the machine.
  def test_the_commands
    said = people("welcome", "BIND" => ADDRESS, "PORT" => @port.to_s)
    link = said[%r{^http://#{ADDRESS}:#{@port}/joining#(\S+)$}, 1]
    assert_match(/no owner yet/, said)
    assert_equal "201", ask("post", "/api/joining", { link: link, name: "Ann", email: "ann@tarrow.example", password: "lantern gravel whistle" }).code
    assert_empty people("welcome", "BIND" => ADDRESS), "there is one now"
    assert_empty people("welcome", "BIND" => "127.0.0.1")
    assert_match(/\Aowner   Ann <ann@tarrow.example>, signed in in 1 browser$/, people("list"))
    link = people("reset", "ANN@tarrow.example", "--codes-off")[/#(\S+)$/, 1]
    assert_equal "201", ask("post", "/api/joining", { link: link, password: "another good one here" }).code
    assert_match(/There is no account/, people("reset", "nobody@x.example"))
    assert_match(/\Ausage:/, people("burn"))
    assert_equal 2, Server::Records::AuditEntry.where("about LIKE '%on the machine itself'").count
  end

  def people(*words)
    env = words.last.is_a?(Hash) ? words.pop : {}
    Open3.capture2e(env, "bundle", "exec", "ruby", File.join(Server::ROOT, "server/commands/people.rb"), *words)[0]
  end
end
