# frozen_string_literal: true

require "support/checkout"

# Accounts: who is let in and for what, passwords, one-time codes, links, sessions, and the log of it.
class PeopleTest < Minitest::Test
  include CheckoutSupport

  OWNER = { "name" => "Ann Quay", "email" => "ann@tarrow.example", "password" => "lantern gravel whistle" }.freeze
  EDITOR = { "name" => "Ben Ferry", "email" => "ben@tarrow.example", "password" => "copper umbrella forty" }.freeze
  VIEWER = { "name" => "Cat Mole", "email" => "cat@tarrow.example", "password" => "seventeen wet anchors" }.freeze

  def setup
    fresh
    BCrypt::Engine.cost = BCrypt::Engine::MIN_COST
    Server::SignIn.tries.clear
  end

  def teardown
    BCrypt::Engine.cost = BCrypt::Engine::DEFAULT_COST
    Server::SignIn.tries.clear
  end

  def owner
    api(:post, "/api/joining/first", OWNER)
    assert_equal 201, status
  end

  # Somebody joins by a link of the owner's, and is signed in afterwards.
  def joined(who, role)
    link = api(:post, "/api/invitations", { role: role }).fetch("link")
    clear_cookies
    api(:post, "/api/joining", who.merge("link" => link))
  end

  def sign_in(who, **more)
    clear_cookies
    api(:post, "/api/session", { **who.slice("email", "password"), **more })
  end

  def logged = Server::Records::AuditEntry.order(:id).map { |one| [one.what, one.by, one.about].compact.join(" ") }

  def test_on_this_machine_nobody_signs_in_before_the_first_account
    assert_equal({ "person" => nil, "accounts" => false, "open" => true }, api(:get, "/api/session"))
    assert_equal "Tarrow Quay Chandlery", setup_now.dig("store", "name")
    assert_equal [%w[/email], 422], [pointers(api(:post, "/api/joining/first", OWNER.merge("email" => "ann"))), status]
    assert_equal [%w[/name], 422], [pointers(api(:post, "/api/joining/first", OWNER.merge("name" => " "))), status]
    owner
    assert_equal 200, (setup_now && status)
    api(:post, "/api/joining/first", EDITOR)
    assert_equal 409, status
    clear_cookies
    assert_equal "Sign in first.", api(:get, "/api/setup")["detail"]
    assert_equal 401, status
    assert_equal({ "person" => nil, "accounts" => true, "open" => false }, api(:get, "/api/session"))
    assert_equal "Ann Quay", sign_in(OWNER).dig("person", "name")
    assert_equal 200, (setup_now && status)
    api(:delete, "/api/session")
    api(:get, "/api/setup")
    assert_equal 401, status
    assert_equal ["joined Ann Quay owner", "signed_in Ann Quay", "signed_out Ann Quay"], logged
  end

  # Every address of the contract, from somewhere else: before there is an account, and afterwards without one.
  def test_from_elsewhere_nothing_is_told_without_an_account
    ways = [{ "REMOTE_ADDR" => "203.0.113.7" }, { "HTTP_X_FORWARDED_FOR" => "203.0.113.7" }, { "HTTP_FORWARDED" => "for=203.0.113.7" },
            { "HTTP_VIA" => "1.1 proxy" }, { "HTTP_X_REAL_IP" => "127.0.0.1" }, { "SERVER_PROTOCOL" => "HTTP/1.0" }]
    ways.each { |way| assert_equal [401], answers(way).values.uniq, way.inspect }
    owner
    clear_cookies
    told = ways.flat_map { |way| answers(way).reject { |_, code| code == 401 }.keys }.uniq
    # For shops: told to any page, or by the origins that the merchant lists.
    assert_equal ["get /api/served", "post /public/mileposts"], told.grep_v(%r{ /checkout/v1/}), "those of checkouts ask for a key next"
  end

  # @return [Hash{String => Integer}] by call; the ways in apart
  def answers(env)
    Server::Contract.source["paths"].reject { |path, _| path.match?(%r{\A/api/(session|joining)}) }.flat_map do |path, verbs|
      (verbs.keys & %w[get post put patch delete]).map do |verb|
        ["#{verb} #{path}", admitted(verb, path, env)]
      end
    end.to_h
  end

  # What stands behind the door is only told that it was reached.
  def admitted(verb, path, env)
    @door ||= Server::Admission.new(->(_) { [200, {}, []] })
    @door.call(Rack::MockRequest.env_for(path.gsub(/\{\w+\}/, "1"), method: verb.upcase, "REMOTE_ADDR" => "127.0.0.1", **env))[0]
  end

  def cookies = rack_mock_session.cookie_jar.for(URI("http://example.org/"))

  def test_settings_that_say_that_others_reach_the_server
    { "BIND" => %w[0.0.0.0 192.0.2.4 127.0.0.2 ::], "GATE_MILE_HOSTS" => %w[shop.example], "GATE_MILE_PROXIES" => %w[10.0.0.1],
      "GATE_MILE_PUBLIC" => %w[0.0.0.0:8081], "GATE_MILE_ACCOUNTS" => %w[1] }.each do |name, values|
      values.each { |value| assert with_env(name, value) { Server::Settings.reached_by_others? }, "#{name}=#{value}" }
    end
    %w[127.0.0.1 ::1 localhost].each { |bind| refute with_env("BIND", bind) { Server::Settings.reached_by_others? } }
  end

  def with_env(name, value)
    was = ENV.fetch(name, nil)
    ENV[name] = value
    yield
  ensure
    ENV[name] = was
  end

  # What each role may do, over all calls of the contract: the contract says it, and the server holds to it.
  def test_roles
    owner
    joined(VIEWER, "viewer")
    refused = refusals
    assert_operator refused.size, :>, 90
    assert_empty refused.grep(%r{\Aget /api/(setup|zones|rates|releases|orders|proofs|geography|keys)}), "a viewer reads"
    assert_includes refused, "get /api/people"
    assert_includes refused, "get /api/audit"
    assert_includes refused, "get /api/backups/now"
    refute_includes refused, "post /api/bench"
    sign_in(OWNER)
    joined(EDITOR, "editor")
    refused = refusals
    assert_equal(owners_calls, refused.sort)
    sign_in(OWNER)
    assert_empty refusals
  end

  def owners_calls
    Server::Contract.source["paths"].flat_map do |path, verbs|
      verbs.filter_map { |verb, call| "#{verb} #{path}" if call.is_a?(Hash) && call["x-role"] == "owner" }
    end.sort
  end

  # @return [Array<String>] calls of the contract that are refused
  def refusals
    Server::Contract.source["paths"].select { |path, _| path.start_with?("/api/") && path != "/api/session" }.flat_map do |path, verbs|
      (verbs.keys & %w[get post put patch delete]).filter_map do |verb|
        "#{verb} #{path}" if admitted(verb, path, { "HTTP_COOKIE" => cookies }) == 403
      end
    end
  end

  # NIST SP 800-63B, 5.1.1.2: at least eight characters, long ones and spaces and any script taken; nothing common, no
  # word of a dictionary, no run of signs, no name of one's own. No rules of composition.
  PASSWORDS = {
    "short" => "password_short", "1234567" => "password_short", "password" => "password_common", "12345678" => "password_common",
    "qwertyuiop" => "password_common", "aaaaaaaaaaaa" => "password_common", "abcdefghij" => "password_common", "Password1" => "password_common",
    "anntarrow" => "password_common", "annquay1" => "password_common", "gatemile" => "password_common", "shipping" => "password_common",
    "ü" * 37 => "password_long", "lantern gravel whistle" => nil, "x7#kQ92!vbT" => nil, "кошка лампа дорога" => nil, "w" * 5 => "password_short",
    "correct horse battery staple" => nil, "#{"zq4 " * 5}turnip" => nil
  }.freeze

  def test_passwords
    PASSWORDS.each do |text, code|
      found = begin
        Server::Passwords.check(text, ["Ann Quay", "ann@tarrow.example"])
        nil
      rescue Server::Problem => e
        e.body[:errors].first[:code]
      end
      code.nil? ? assert_nil(found, text) : assert_equal(code, found, text)
    end
  end

  def test_what_is_wrong_is_not_told
    owner
    wrong = sign_in(OWNER.merge("password" => "lantern gravel whistlf"))
    unknown = sign_in(EDITOR)
    assert_equal [wrong["detail"], 401], [unknown["detail"], status]
    ["lantern gravel whistle\u0000", "#{OWNER["password"]}#{" " * 90}", "", " lantern gravel whistle"].each do |password|
      sign_in({ "email" => OWNER["email"], "password" => password })
      assert_includes [401, 429], status, password.inspect
    end
    Server::SignIn.tries.clear
    assert_equal 200, (sign_in(OWNER.merge("email" => " ANN@tarrow.example ")) && status), "the email in any case"
  end

  # Five wrong ones from one address, and that address waits for that account; others don't, and neither does a quote.
  def test_who_tries_too_often_waits
    owner
    5.times { sign_in(OWNER.merge("password" => "wrong wrong wrong")) && assert_equal(401, status) }
    sign_in(OWNER)
    assert_equal [429, "900"], [status, last_response.headers["retry-after"]]
    clear_cookies
    api(:post, "/api/session", OWNER.slice("email", "password"), "REMOTE_ADDR" => "203.0.113.9")
    assert_equal 200, status
    clear_cookies
    30.times { |at| api(:post, "/api/session", { email: "nobody#{at}@x.example", password: "wrong wrong" }, "REMOTE_ADDR" => "203.0.113.10") }
    api(:post, "/api/session", OWNER.slice("email", "password"), "REMOTE_ADDR" => "203.0.113.10")
    assert_equal 429, status, "an address that tries many accounts"
    50.times { |at| api(:post, "/api/session", { email: EDITOR["email"], password: "wrong wrong" }, "REMOTE_ADDR" => "198.51.100.#{at}") }
    api(:post, "/api/session", EDITOR.slice("email", "password"), "REMOTE_ADDR" => "198.51.100.200")
    assert_equal 429, status, "an account that is tried from many addresses"
  end

  # Forty guesses at the same moment: five are tried, the others are told to wait.
  def test_guesses_at_the_same_moment
    owner
    tried = Queue.new
    Server::SignIn.stub(:right?, ->(*) { (tried << sleep(0.02)) && false }) do
      codes = Array.new(40) do
        Thread.new do
          Server::SignIn.person({ "email" => OWNER["email"], "password" => "wrong" }, {}, "203.0.113.9")
        rescue Server::Problem => e
          e.status
        ensure
          ActiveRecord::Base.connection_handler.clear_active_connections!
        end
      end.map(&:value)
      assert_equal({ 401 => 5, 429 => 35 }, codes.tally)
    end
    assert_equal 5, tried.size
  end

  # Others guess at an account from everywhere: a browser in which its person has signed in before still lets them in, and no more often.
  def test_a_known_browser_is_not_locked_out
    owner
    sign_in(OWNER)
    known = last_response.headers["set-cookie"].then { |set| Array(set).flat_map(&:lines).find { |line| line.start_with?("gate-mile-known") } }
    assert_match(%r{; Path=/api/session; HttpOnly; SameSite=Strict; Max-Age=31536000\Z}, known)
    clear_cookies
    50.times { |at| api(:post, "/api/session", { email: OWNER["email"], password: "wrong wrong" }, "REMOTE_ADDR" => "198.51.100.#{at}") }
    here = ->(password, cookie) { api(:post, "/api/session", { email: OWNER["email"], password: password }, "HTTP_COOKIE" => cookie) && status }
    assert_equal 429, here.call(OWNER["password"], "")
    assert_equal 429, here.call(OWNER["password"], "gate-mile-known=#{"x" * 60}")
    cookie = known[/\A[^;]+/]
    assert_equal 200, here.call(OWNER["password"], cookie)
    assert_equal ([401] * 5) + [429], Array.new(6) { here.call("wrong wrong", cookie) }, "it may guess no more often than others"
    Server::SignIn.tries.clear
    Server::Database.write { Server::People.renewed(Server::Records::Person.first, "another long phrase") }
    assert_nil Server::KnownBrowser.of(Server::Records::Person.first, { "HTTP_COOKIE" => cookie }), "it ends with the password"
  end

  # The word for whether anybody has an account, asked while the first one is being made, does not outlast that.
  def test_accounts_that_begin_while_somebody_asks
    Server::People.changed
    real = Server::Records::Person.method(:exists?)
    first = [:owner]
    Server::Records::Person.stub(:exists?, -> { real.call.tap { first.shift&.then { |make| send(make) } } }) { refute_predicate Server::People, :accounts? }
    assert_predicate Server::People, :accounts?
  end

  # A link replaces a password, not a code: whoever has codes on shows one at the door.
  def test_a_link_does_not_replace_a_code
    owner
    made = api(:post, "/api/me/codes", { current: OWNER["password"] })
    api(:put, "/api/me/codes", { code: ROTP::TOTP.new(made["secret"]).now })
    link = api(:post, "/api/people/#{api(:get, "/api/me").dig("person", "id")}/reset")["link"]
    clear_cookies
    told = api(:post, "/api/joining", { link: link, password: "a wholly other thing" })
    assert_equal [201, nil, nil], [status, told["person"], last_response.headers["set-cookie"]]
    api(:get, "/api/setup")
    assert_equal 401, status
    other = OWNER.merge("password" => "a wholly other thing")
    assert_equal [true, 401], [sign_in(other)["code_wanted"], status]
    later(90) { assert_equal 200, sign_in(other, code: ROTP::TOTP.new(made["secret"]).now) && status }
  end

  # Two who come with the same code at the same moment: one is let in.
  def test_a_code_counts_once
    owner
    person = Server::Records::Person.first
    secret = ROTP::Base32.random
    12.times do
      person.reload.update!(code_secret: secret, codes: true, code_used: nil)
      code = ROTP::TOTP.new(secret).now
      both = Array.new(2) { Server::Records::Person.find(person.id) }
      found = both.map do |one|
        Thread.new { Server::OneTimeCodes.spend(one, code).tap { ActiveRecord::Base.connection_handler.clear_active_connections! } }
      end.map(&:value)
      assert_equal [nil, :code], found.sort_by(&:to_s)
    end
  end

  # From which network, in short; what somebody may not do is told, and once a minute.
  def test_the_log_says_from_where
    owner
    joined(VIEWER, "viewer")
    Server::AuditLog.instance_variable_get(:@refused).clear
    2.times { api(:patch, "/api/store", { lock_version: 0, name: "X" }, "REMOTE_ADDR" => "203.0.113.77") && assert_equal(403, status) }
    Server::Beside.finish
    entries = Server::Records::AuditEntry.where(what: "access_refused").map { |one| [one.by, one.about, one.source] }
    assert_equal [["Cat Mole", "PATCH /api/store", "203.0.113.0/24"]], entries
    assert_equal(["2001:db8:7::/48", "203.0.113.0/24", nil], ["2001:db8:7:1::5", "::ffff:203.0.113.9", "nobody"].map { |at| Server::AuditLog.network(at) })
    sign_in(OWNER)
    assert_includes api(:get, "/api/audit")["entries"].map { |one| one["source"] }, "127.0.0.0/24"
  end

  # What everybody knows of the shop is no password: its name and the words of it.
  def test_the_name_of_the_shop_is_no_password
    ["Tarrow Quay Chandlery", "tarrowquay", "Chandlery1", "quay tarrow"].each do |password|
      assert_equal [422, %w[/password]], [(told = api(:post, "/api/joining/first", OWNER.merge("password" => password))) && status, pointers(told)], password
    end
    owner
  end

  # The cookie that only TLS can set counts, whichever is sent first; the other one may be anybody's.
  def test_which_cookie_counts
    owner
    ann = Server::Records::Person.first
    mine = Server::Sessions.make(ann, { "HTTPS" => "on", "rack.url_scheme" => "https" })[/=([\w-]+)/, 1]
    other = "x" * 43
    ["__Host-gate-mile=#{mine}; gate-mile=#{other}", "gate-mile=#{other}; __Host-gate-mile=#{mine}"].each do |sent|
      assert_equal "Ann Quay", Server::Sessions.asking({ "HTTP_COOKIE" => sent })&.name
    end
    assert_nil Server::Sessions.asking({ "HTTP_COOKIE" => "xgate-mile=#{mine}" })
  end

  # RFC 6238, appendix B: the secret "12345678901234567890", SHA-1; its codes of eight digits, of which six are the last.
  RFC_6238 = { 59 => "94287082", 1_111_111_109 => "07081804", 1_111_111_111 => "14050471", 1_234_567_890 => "89005924",
               2_000_000_000 => "69279037", 20_000_000_000 => "65353130" }.freeze

  def test_one_time_codes_are_those_of_the_standard
    secret = ROTP::Base32.encode("12345678901234567890")
    RFC_6238.each { |at, code| assert_equal code[-6..], ROTP::TOTP.new(secret).at(at) }
  end

  def test_signing_in_with_a_one_time_code
    owner
    assert_equal [%w[/current], 422], [pointers(api(:post, "/api/me/codes", { current: "not mine at all" })), status]
    made = api(:post, "/api/me/codes", { current: OWNER["password"] })
    assert_match %r{\Aotpauth://totp/Gate%20Mile:ann}, made["address"]
    assert_match(/\A<\?xml.*<svg/m, made["picture"])
    clock = ROTP::TOTP.new(made["secret"])
    assert_equal [%w[/code], 422], [pointers(api(:put, "/api/me/codes", { code: "000000" })), status]
    recovery = api(:put, "/api/me/codes", { code: clock.now })["recovery_codes"]
    assert_equal [10, 10], [recovery.uniq.size, api(:get, "/api/me")["recovery_codes"]]
    refute_includes Server::Records::RecoveryCode.pluck(:digest), recovery.first
    api(:post, "/api/me/codes", { current: OWNER["password"] })
    assert_equal [409, true], [status, api(:get, "/api/me").dig("person", "codes")], "to begin anew would take them off"

    wanted = sign_in(OWNER)
    assert_equal [401, true], [status, wanted["code_wanted"]]
    sign_in(OWNER, code: clock.now)
    assert_equal 401, status, "a code counts once, and this one was used to switch them on"
    later(90) do
      sign_in(OWNER, code: " #{clock.now[0, 3]} #{clock.now[3, 3]}")
      assert_equal 200, status
      sign_in(OWNER, code: clock.now)
      assert_equal 401, status
    end
    later(400) do
      sign_in(OWNER, code: clock.at(Time.now - 300))
      assert_equal 401, status, "an old one"
      sign_in(OWNER, code: recovery.first.upcase)
      assert_equal 200, status
      sign_in(OWNER, code: recovery.first)
      assert_equal 401, status, "used"
    end
    Server::SignIn.tries.clear
    sign_in(OWNER, code: recovery[1])
    assert_equal 8, api(:get, "/api/me")["recovery_codes"]
    new = api(:post, "/api/me/codes/recovery", { current: OWNER["password"] })["recovery_codes"]
    Server::SignIn.tries.clear
    sign_in(OWNER, code: recovery[2])
    assert_equal 401, status, "the old ones count no more"
    sign_in(OWNER, code: new.first)
    api(:post, "/api/me/codes/off", { current: OWNER["password"] })
    assert_equal 200, (sign_in(OWNER) && status)
    assert_equal 2, logged.count { |line| line.start_with?("recovery_code_used") } - 1
  end

  # Lost keys: the secret of the codes can't be read any more; a recovery code lets its person in all the same.
  def test_codes_whose_keys_are_lost
    owner
    made = api(:post, "/api/me/codes", { current: OWNER["password"] })
    recovery = api(:put, "/api/me/codes", { code: ROTP::TOTP.new(made["secret"]).now })["recovery_codes"]
    stored = ActiveRecord::Base.connection.select_value("SELECT code_secret FROM people")
    refute_includes stored, made["secret"]
    Server::Records::Person.connection.execute("UPDATE people SET code_secret = '#{stored.sub(/"p":"..../, '"p":"AAAA')}'")
    sign_in(OWNER, code: "123456")
    assert_equal 401, status
    sign_in(OWNER, code: recovery.first)
    assert_equal 200, status
  end

  def test_links_let_in_once
    owner
    made = api(:post, "/api/invitations", { role: "editor" })
    assert_equal ["editor", "Ann Quay"], made["made"].values_at("role", "by")
    refute_includes Server::Records::Invitation.pluck(:digest), made["link"]
    assert_equal 1, api(:get, "/api/people")["invitations"].size
    clear_cookies
    assert_equal "editor", api(:post, "/api/joining/look", { link: made["link"] })["role"]
    assert_equal [%w[/password], 422], [pointers(api(:post, "/api/joining", EDITOR.merge("link" => made["link"], "password" => "password"))), status]
    assert_equal [%w[/email], 422], [pointers(api(:post, "/api/joining", EDITOR.merge("link" => made["link"], "email" => OWNER["email"].upcase))), status]
    assert_equal "Ben Ferry", api(:post, "/api/joining", EDITOR.merge("link" => made["link"])).dig("person", "name"), "the link still holds after mistakes"
    api(:post, "/api/joining", VIEWER.merge("link" => made["link"]))
    assert_equal 404, status, "used"
    sign_in(OWNER)
    over = api(:post, "/api/invitations", { role: "viewer" })
    later(8 * 86_400) { api(:post, "/api/joining/look", { link: over["link"] }) && assert_equal(404, status) }
    api(:delete, "/api/invitations/#{over["made"]["id"]}")
    api(:post, "/api/joining/look", { link: over["link"] })
    assert_equal 404, status
  end

  def test_an_owner_lets_somebody_choose_a_new_password
    owner
    ben = joined(EDITOR, "editor").dig("person", "id")
    bens = rack_mock_session.cookie_jar.to_hash.fetch("gate-mile")
    sign_in(OWNER)
    first = api(:post, "/api/people/#{ben}/reset")["link"]
    link = api(:post, "/api/people/#{ben}/reset")["link"]
    clear_cookies
    api(:post, "/api/joining/look", { link: first })
    assert_equal 404, status, "a new link replaces the old one"
    assert_equal ["Ben Ferry", EDITOR["email"]], api(:post, "/api/joining/look", { link: link }).values_at("person", "email")
    api(:post, "/api/joining", { link: link, password: "a wholly other thing", name: "Mallory", email: "mallory@x.example" })
    assert_equal "Ben Ferry", api(:get, "/api/me").dig("person", "name"), "the rest stays"
    clear_cookies
    set_cookie("gate-mile=#{bens}")
    api(:get, "/api/setup")
    assert_equal 401, status, "sessions from before have ended"
    sign_in(EDITOR)
    assert_equal 401, status
    assert_equal 200, (sign_in(EDITOR.merge("password" => "a wholly other thing")) && status)
  end

  def test_the_last_owner_stays
    owner
    ann = api(:get, "/api/me").dig("person", "id")
    edit_beside("/api/people/#{ann}", { role: "viewer" })
    assert_equal 409, status
    api(:delete, "/api/people/#{ann}")
    assert_equal 409, status
    ben = joined(EDITOR, "editor").dig("person", "id")
    sign_in(OWNER)
    assert_equal "owner", edit_beside("/api/people/#{ben}", { role: "owner" })["role"]
    edit_beside("/api/people/#{ann}", { role: "viewer" })
    assert_equal 200, status
    api(:get, "/api/people")
    assert_equal 403, status, "at once"
    sign_in(EDITOR)
    api(:delete, "/api/people/#{ann}")
    assert_equal 204, status
    sign_in(OWNER)
    assert_equal 401, status
    assert_equal ["Ann Quay: owner → viewer", "Ben Ferry: editor → owner"],
                 Server::Records::AuditEntry.where(what: "role_changed").pluck(:about).sort
  end

  # OWASP's cheat sheet for sessions: the cookie is HttpOnly, SameSite and, over TLS, Secure with the __Host- prefix; a new one at each sign-in; ends by
  # itself after a time without use and in any case, and on the server.
  def test_sessions
    owner
    plain = last_response.headers["set-cookie"]
    cookie = -> { Array(last_response.headers["set-cookie"]).flat_map(&:lines).first.strip }
    assert_match(%r{\Agate-mile=[\w-]{43}; Path=/; HttpOnly; SameSite=Strict; Max-Age=604800\z}, plain)
    clear_cookies
    api(:post, "/api/session", OWNER.slice("email", "password"), "HTTPS" => "on", "HTTP_USER_AGENT" => "Mozilla/5.0 (X11; Linux) Firefox/140.0")
    assert_match(/\A__Host-gate-mile=[\w-]{43};.*; Secure\z/, cookie.call)
    refute_equal plain[/=[\w-]+/], cookie.call[/=[\w-]+/]
    sign_in(OWNER)
    sessions = api(:get, "/api/me")["sessions"]
    assert_equal [3, 1], [sessions.size, sessions.count { |one| one["current"] }]
    assert_includes sessions.map { |one| one["browser"] }, "Firefox on Linux"
    refute_match(/#{plain[/=([\w-]+)/, 1]}/, Server::Records::Session.pluck(:digest).join)
    api(:delete, "/api/me/sessions/#{sessions.find { |one| !one["current"] }["id"]}")
    assert_equal 2, api(:get, "/api/me")["sessions"].size
    api(:delete, "/api/me/sessions/others")
    assert_equal 1, api(:get, "/api/me")["sessions"].size
    api(:delete, "/api/me/sessions/999999")
    assert_equal 404, status
    later((12 * 3600) - 60) { assert_equal 200, (api(:get, "/api/setup") && status) }
    later(13 * 3600) { assert_equal 200, (api(:get, "/api/setup") && status), "used in the meantime" }
    later((7 * 86_400) + 60) { assert_equal 401, (api(:get, "/api/setup") && status), "in any case" }
  end

  def test_a_session_that_is_not_used_ends
    owner
    later((12 * 3600) + 60) do
      assert_equal 401, (api(:get, "/api/setup") && status)
      Server::Sessions.tidy(Time.now)
      assert_equal 0, Server::Records::Session.count
    end
  end

  # One's own name, email and password; whoever knew the old one is out.
  def test_changing_oneself
    owner
    assert_equal "Ann Q.", edit_beside("/api/me", { name: "Ann Q." })["name"]
    assert_equal [%w[/current], 422], [pointers(edit_beside("/api/me", { email: "new@tarrow.example" })), status]
    edit_beside("/api/me", { email: "new@tarrow.example", current: OWNER["password"] })
    assert_equal [%w[/password], 422], [pointers(edit_beside("/api/me", { password: "12345678", current: OWNER["password"] })), status]
    other = rack_mock_session.cookie_jar.to_hash.fetch("gate-mile")
    edit_beside("/api/me", { password: "quite another thing", current: OWNER["password"] })
    assert_equal 200, (setup_now && status), "whoever changes it stays in"
    clear_cookies
    set_cookie("gate-mile=#{other}")
    assert_equal 401, (api(:get, "/api/setup") && status)
    assert_equal 200, (sign_in({ "email" => "new@tarrow.example", "password" => "quite another thing" }) && status)
  end

  # Outside the setup, too, an edit that was made before somebody else's is refused, and answered with the current state.
  def test_edits_of_what_was_changed_meanwhile
    owner
    ben = joined(EDITOR, "editor").dig("person", "id")
    sign_in(OWNER)
    key = api(:post, "/api/keys", { name: "Shop", calls: %w[quotes] }).dig("made", "id")
    hook = api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: %w[proof.failing] }).dig("made", "id")
    [["/api/people/#{ben}", { role: "viewer" }, { role: "owner" }], ["/api/keys/#{key}", { pace: 7 }, { name: "Other" }],
     ["/api/webhooks/#{hook}", { active: false }, { events: %w[offer.used_up] }], ["/api/me", { name: "Ann Q." }, { name: "Ann" }]].each do |path, mine, theirs|
      stood = shown(path)["edition"]
      api(:patch, path, { **theirs, edition: stood })
      refused = api(:patch, path, { **mine, edition: stood })
      assert_equal 409, status, path
      assert_equal shown(path)["edition"], refused.dig("current", "edition")
      refute_equal stood, refused.dig("current", "edition")
      edit_beside(path, mine)
      assert_equal 200, status
    end
  end

  def test_releases_and_changes_name_who
    owner
    api(:patch, "/api/zones/#{setup_now["zones"].first["id"]}", { name: "Britain", lock_version: setup_now["zones"].first["lock_version"] })
    assert_equal "Ann Quay", api(:get, "/api/history")["changes"].first["by"]
    made = api(:post, "/api/releases", { revision: setup_now["revision"], by: "Somebody Else" })
    assert_equal "Ann Quay", made["by"]
    key = api(:post, "/api/keys", { name: "Till", public: false, origins: [], calls: ["quotes"], pace: 100 })
    api(:delete, "/api/keys/#{key.dig("made", "id")}")
    api(:get, "/api/zones.csv")
    Server::Beside.finish
    assert_equal ["joined Ann Quay owner", "published Ann Quay release 1", "key_made Ann Quay Till", "key_revoked Ann Quay Till",
                  "exported Ann Quay zones.csv"], logged
    assert_equal("exported", api(:get, "/api/audit")["entries"].first["what"])
    assert_equal(%w[key_made published], api(:get, "/api/audit?limit=2&before=#{Server::Records::AuditEntry.find_by(what: "key_revoked").id}")["entries"]
      .map { |one| one["what"] })
    Server::AuditLog.tidy(Time.now + (401 * 86_400))
    assert_empty logged
  end

  # A backup lets nobody in who was signed in, and keeps who has an account.
  def test_backups_hold_accounts_and_no_sessions
    owner
    api(:post, "/api/invitations", { role: "editor" })
    Dir.mktmpdir do |folder|
      file = File.join(folder, "b.sqlite3")
      Server::Backup.write(file)
      SQLite3::Database.new(file, readonly: true) do |copy|
        assert_equal([1, 0, 0], %w[people sessions invitations].map { |table| copy.get_first_value("SELECT COUNT(*) FROM #{table}") })
      end
    end
  end
end
