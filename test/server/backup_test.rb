# frozen_string_literal: true

require_relative "../support/checkout"
require_relative "../support/carriers"
require "open3"

# A shop that is copied while it runs, lost, and brought back; keys that are lost; a disk that is full.
class BackupTest < Minitest::Test
  include CheckoutSupport
  include CarriersSupport

  def setup
    fresh(WHOLE_DEMO)
    @folder = Dir.mktmpdir
    @file = File.join(@folder, "shop.backup")
  end

  def teardown = FileUtils.rm_rf(@folder)

  # Another machine: a database of its own that is not there yet.
  def elsewhere(name = "new")
    { "GATE_MILE_DATABASE" => File.join(@folder, name, "shop.sqlite3"), "GATE_MILE_PASSPHRASE" => nil }
  end

  # A command as bin/ runs it, once its libraries are there.
  def command(name, *arguments, env: elsewhere)
    said, status = Open3.capture2e(env, RbConfig.ruby, "server/commands/#{name}.rb", *arguments, stdin_data: "", chdir: Server::ROOT)
    [status.exitstatus, said.lines.grep_v(/^\d{4}-/).join.strip]
  end

  # @return [String] why nothing was restored
  def refusal(passphrase = nil)
    before = ENV.fetch("GATE_MILE_DATABASE")
    ENV["GATE_MILE_DATABASE"] = elsewhere["GATE_MILE_DATABASE"]
    assert_raises(Server::Restore::Refused) { Server::Restore.read(@file, passphrase: passphrase && -> { passphrase }) }.message
  ensure
    ENV["GATE_MILE_DATABASE"] = before
  end

  def inside(env, code)
    Open3.capture2(env, RbConfig.ruby, "-r./server/boot", "-e", "Server::Database.connect; #{code}", chdir: Server::ROOT).first
  end

  # Every quote of every proof, as one digest: run here, and there.
  PROVEN = <<~RUBY
    puts Server::Records::Carrier.order(:id).map(&:secret).join(" ")
    book = GateMile::Book.compile(Server::BookDocument.read)
    quotes = Server::Records::Proof.order(:id).map do |proof|
      book.quote(GateMile::Cart.parse(proof.cart, book.currency), at: Time.utc(2026, 11, 27, 12)).dump
    end
    puts Digest::SHA256.hexdigest(JSON.generate([quotes.size, quotes, book.dump]))
  RUBY

  # The whole way: a copy of the running shop with the keys, the loss of the machine, and the same shop with the same quotes.
  def test_backup_loss_and_restore
    carriers
    publish
    @key = key_for
    ask(:post, "orders", { order: "1", quote: quoted["quote"], method: "TRACKED" })
    Server::Backup.write(@file, passphrase: "correct horse battery")
    assert_equal 0o600, File.stat(@file).mode & 0o777
    here = ENV.to_h.slice("GATE_MILE_DATABASE")
    said = IO.popen({ **here, "GATE_MILE_PASSPHRASE" => "correct horse battery" }, [File.join(Server::ROOT, "bin/backup"), "#{@file}2", "--with-keys"], &:read)
    assert_match(/locked by the passphrase/, said)
    assert_equal "the passphrase is another one", refusal("another passphrase")
    code, said = command("restore", @file, env: { **elsewhere, "GATE_MILE_PASSPHRASE" => "correct horse battery" })
    assert_equal 0, code, said
    assert_match(/\ATarrow Quay Chandlery, as of .*: #{setup_now["zones"].size} zones, .*, 1 release, 1 order\.\z/, said)
    assert_equal inside(here, PROVEN), inside(elsewhere, PROVEN)
    assert_match(/\Athere is a shop already: .* it is not written over\z/, refusal)
    assert_equal([0o600] * 2, %w[shop.sqlite3 keys.json].map { |name| File.stat(File.join(@folder, "new", name)).mode & 0o777 })
  end

  # What SQLite has left beside a database that was moved away would be played over the backup: it is named, and stays.
  # A restore that was killed leaves a folder, which the next one removes.
  def test_a_restore_over_leftovers
    Server::Backup.write(@file)
    there = elsewhere["GATE_MILE_DATABASE"]
    FileUtils.mkdir_p(File.join(File.dirname(there), "restoring-killed"))
    %w[-wal -shm -journal].each do |ending|
      File.write(there + ending, "left over")
      assert_match(/\A#{there}#{ending} belong to the database that was here/, refusal)
      assert_equal %W[in-use.lock restoring-killed shop.sqlite3#{ending}], Dir.children(File.dirname(there)).sort
      File.unlink(there + ending)
    end
    assert_equal 0, command("restore", @file).first
    assert_equal %w[in-use.lock keys.json shop.sqlite3], Dir.children(File.dirname(there)).sort
    before = inside(ENV.to_h.slice("GATE_MILE_DATABASE"), "puts Server::Records::Product.count")
    assert_equal before, inside(elsewhere, "puts Server::Records::Product.count")
  end

  # While a server runs, nothing is restored beneath it, and no second one starts; when it is killed, the lock is free.
  def test_one_process_holds_the_folder
    Server::Backup.write(@file)
    there = elsewhere["GATE_MILE_DATABASE"]
    holder = IO.popen([elsewhere, RbConfig.ruby, "-r./server/boot", "-e", "Server::Start.database; puts Process.pid; $stdout.flush; sleep"],
                      chdir: Server::ROOT)
    pid = holder.gets.to_i
    File.rename(there, "#{there}.away")
    FileUtils.rm_f([File.join(File.dirname(there), "keys.json"), *Server::Database.beside(there)])
    2.times { assert_match(/is in use by another Gate Mile \(process #{pid}\)\. Stop it first/, refusal) }
    said, status = Open3.capture2e(elsewhere, RbConfig.ruby, "server/prepare.rb", "--empty", chdir: Server::ROOT)
    assert_equal [1, 1, true], [status.exitstatus, said.lines.size, said.include?("is in use by another Gate Mile")], said
    Process.kill(:KILL, pid)
    holder.close
    assert_equal 0, command("restore", @file).first
  end

  # A lost passphrase is not the end: without the keys the shop comes back, and its secrets are typed again.
  def test_keys_are_left_out_of_a_backup_that_has_them
    carriers
    Server::Backup.write(@file, passphrase: "correct horse battery")
    assert_match(/the passphrase is another one/, command("restore", @file, env: { **elsewhere, "GATE_MILE_PASSPHRASE" => "forgotten long ago" }).last)
    refute_path_exists File.join(@folder, "new"), "nothing is left of what failed"
    code, said = command("restore", @file, "--without-keys")
    assert_equal [0, true], [code, said.include?("have to be typed again")], said
    assert_includes JSON.parse(File.read(File.join(@folder, "new", "keys.json"))).keys, "primary_key"
  end

  # A page that is damaged is no part of a backup: it is refused, told, and no good backup gives way to it.
  def test_a_damaged_database
    there = File.join(@folder, "damaged.sqlite3")
    ActiveRecord::Base.connection.execute("VACUUM INTO '#{there}'")
    root = SQLite3::Database.new(there).get_first_value("SELECT rootpage FROM sqlite_master WHERE name = 'products'")
    File.open(there, "r+b") { |out| out.seek((root - 1) * 4096) && out.write("\xFF" * 4096) }
    Server::Settings.stub(:database, there) do
      assert_match(/the database is damaged/, assert_raises(Server::Backup::Damaged) { Server::Backup.write(@file) }.message)
      refute_path_exists @file
      FileUtils.mkdir_p(Server::Nightly.folder)
      kept = Server::Nightly.file(Date.new(2026, 1, 4))
      File.write(kept, "a good one")
      night = Server::Nightly.new
      quietly { night.round(Time.utc(2026, 1, 12, 4)) }
      assert_equal [true, 1, [Date.new(2026, 1, 4)]], [night.trouble.include?("damaged"), night.failures, Server::Nightly.dates]
      code, said = command("backup", "#{@file}2", env: { "GATE_MILE_DATABASE" => there })
      assert_equal [1, true, false], [code, said.include?("No backup was made: the database is damaged"), File.exist?("#{@file}2")]
    end
    get "/ready", {}, "HTTP_HOST" => "localhost"
    assert_equal [503, true], [status, last_response.body.include?("damaged")]
  ensure
    Server::Database.damaged = false
  end

  # One try, and then longer and longer waits; whoever wants to know is told once, and the page of what goes on says it.
  def test_a_night_that_fails
    api(:post, "/api/webhooks", { url: "http://127.0.0.1:9/hooks", events: %w[backup.failed] })
    night = Server::App.settings.duties.backups
    tries = 0
    Server::Backup.stub(:write, ->(*, **) { (tries += 1) && raise(Server::Backup::Refused, "No space left on device") }) do
      quietly { (0...3600).each { |second| night.round(Time.utc(2026, 1, 5, 4) + second) } }
    end
    assert_equal 4, tries, "at once, after one minute, after five more and after a quarter of an hour more"
    assert_equal "No space left on device", api(:get, "/api/today")["backup_trouble"]
    Server::Announcements.write_down
    assert_equal(["backup.failed"], Server::Records::WebhookMessage.pluck(:kind))
    quietly { night.round(Time.utc(2026, 1, 5, 6)) }
    assert_nil api(:get, "/api/today")["backup_trouble"]
  end

  # Without keys the shop starts, names the carriers, and each secret can be typed again; nothing is ever 500.
  def test_keys_that_are_lost
    carriers
    Server::Backup.write(@file)
    refute_includes File.binread(@file), "primary_key"
    code, said = command("restore", @file)
    assert_equal 0, code, said
    assert_match(/have to be typed again: #{Server::Records::Carrier.order(:name).pluck(:name).join(", ")}\.\z/, said)
    with_other_keys do
      petrel = find("carriers", "petrel")
      assert_equal [200, false, true], [status, *petrel.values_at("has_secret", "secret_lost")]
      assert_equal "priced", api(:post, "/api/quote", CART)["status"]
      %w[/api/carriers/state /api/webhooks /api/history /api/findings].each { |path| assert_equal 200, (api(:get, path) && status), path }
      typed = api(:patch, "/api/carriers/petrel", { lock_version: petrel["lock_version"], secret: "anew" })
      assert_equal [true, false], typed.values_at("has_secret", "secret_lost")
    end
  end

  # As after the loss of keys.json: the same database, read with keys that it does not know.
  def with_other_keys
    config = ActiveRecord::Encryption.config
    before = %i[primary_key deterministic_key key_derivation_salt].to_h { |name| [name, config.public_send(name)] }
    ActiveRecord::Encryption.configure(**before.transform_values { SecureRandom.alphanumeric(32) }, encryptor: Server::Forgiving.new)
    yield
  ensure
    ActiveRecord::Encryption.configure(**before, encryptor: Server::Forgiving.new)
  end

  # New keys beside the old ones: what was written before is read still, and is written anew with the newest.
  def test_new_keys
    carriers
    publish
    @key = key_for
    quote = quoted["quote"]
    before = File.read(Server::Keys.file)
    stored = -> { Server::Records::Carrier.find("petrel").secret_before_type_cast }
    old = stored.call
    ann = Server::Records::Person.create!(name: "Ann", email: "a@x.example", role: "owner", password: "lantern gravel", code_secret: "JBSWY3DPEHPK3PXP",
                                          made_at: Time.now)
    code, said = command("keys", "--rotate", env: ENV.to_h.slice("GATE_MILE_DATABASE"))
    assert_equal [0, true], [code, said.include?("has new keys")]
    Server::Keys.load
    assert_equal ["quay", old], [Server::Records::Carrier.find("petrel").secret, stored.call]
    Server::Secrets.renew
    assert_equal "quay", Server::Records::Carrier.find("petrel").secret
    refute_equal old, stored.call
    was = ann.code_secret_before_type_cast
    assert_equal "JBSWY3DPEHPK3PXP", ann.reload.code_secret, "the secret of one-time codes is written anew too"
    refute_equal was, ann.code_secret_before_type_cast
    checkout.instance_variable_set(:@seal, nil)
    checkout.instance_variable_set(:@orders, nil)
    assert_equal "5.95", ask(:post, "orders", { order: "1", quote: quote, method: "TRACKED" })["price"], "a quote from before"
    assert_equal 0o600, File.stat(Server::Keys.file).mode & 0o777
  ensure
    File.write(Server::Keys.file, before) if before
    Server::Keys.load
    %i[@seal @orders @quotes].each { |name| checkout.instance_variable_set(name, nil) }
  end

  # While somebody edits without a pause, a copy is of one moment: every rate of it has the same price.
  def test_a_copy_is_of_one_moment
    rates = Server::Records::Rate.pluck(:id)
    stop = false
    editing = Thread.new do
      count = 0
      until stop
        Server::Database.write { rates.each { |id| Server::Records::Rate.where(id: id).update_all(name: "Edit #{count}") } }
        count += 1
      end
      ActiveRecord::Base.connection_handler.clear_active_connections!
      count
    end
    3.times do |at|
      Server::Backup.write("#{@file}#{at}")
      names = SQLite3::Database.new("#{@file}#{at}").execute("SELECT DISTINCT name FROM rates").flatten
      assert_equal 1, names.grep(/Edit/).size, "and none that was not edited yet" if names.any?(/Edit/)
      assert_equal 1, names.size if at.positive?
    end
    stop = true
    assert_operator editing.value, :>, 0
  end

  # What could not be copied whole is none, and leaves nothing behind.
  def test_a_copy_that_stops
    SQLite3::Backup.stub(:new, Struct.new(:finish).new.tap { |one| one.define_singleton_method(:step) { |_| SQLite3::Constants::ErrorCode::BUSY } }) do
      assert_equal "it could not be copied whole", assert_raises(Server::Backup::Refused) { Server::Backup.write(@file) }.message
    end
    assert_empty Dir[File.join(@folder, "*")]
  end

  def test_what_is_no_backup
    # By a process of its own: whoever closes the file here takes SQLite's locks on it away.
    system("cp", ENV.fetch("GATE_MILE_DATABASE"), @file, exception: true)
    assert_match(/is no backup of Gate Mile/, refusal)
    File.write(@file, "something else")
    assert_match(/is no backup of Gate Mile/, refusal)
    FileUtils.rm_f(@file)
    assert_match(/there is no file/, refusal)
    Server::Backup.write(@file)
    text = File.binread(@file)
    File.binwrite(@file, text[0, text.size / 2])
    assert_match(/damaged/, refusal)
    text[8192, 40_000] = "\0" * 40_000
    File.binwrite(@file, text)
    assert_match(/damaged/, refusal)
    refute_path_exists File.join(@folder, "new"), "nothing was begun"
    assert_raises(Server::Backup::Refused) { Server::Backup.write(@file) }
    assert_raises(Server::Backup::Refused) { Server::Backup.write("#{@file}3", passphrase: "short") }
    code, said = command("backup", "#{@file}4")
    assert_equal [1, true], [code, said.start_with?("There is no shop here to back up")]
  end

  # What a newer version has written is not read half: neither a backup nor a database, and both stay as they are.
  def test_what_a_newer_version_has_written
    Server::Backup.write(@file)
    SQLite3::Database.new(@file) { |copy| copy.execute("INSERT INTO schema_migrations VALUES ('999')") }
    assert_match(/\Ait was written by a newer version of Gate Mile \(step 999 of its tables; this version knows \d+\)/, refusal)
    refute_path_exists File.join(@folder, "new")
    said, status = Open3.capture2e({ "GATE_MILE_DATABASE" => @file }, RbConfig.ruby, "server/prepare.rb", chdir: Server::ROOT)
    assert_equal [1, true, 1],
                 [status.exitstatus, said.include?("#{@file} can't be used: it was written by a newer version"), said.lines.grep_v(/^\d{4}-/).size], said
    SQLite3::Database.new(@file) do |left|
      assert_equal [999, setup_now["zones"].size],
                   left.get_first_row("SELECT max(CAST(version AS INTEGER)), (SELECT COUNT(*) FROM zones) FROM schema_migrations")
    end
  end

  # Seven nights, then Mondays for eight weeks; by brute force over a year.
  def test_each_night
    nightly = Server::Nightly.new
    FileUtils.rm_rf(Server::Nightly.folder)
    nightly.round(Time.utc(2026, 1, 5, 2, 59))
    assert_empty Server::Nightly.dates, "not before three"
    Server::Backup.stub(:write, ->(file, **) { File.write(file, "") }) do
      (0..364).each { |day| nightly.round(Time.utc(2026, 1, 5, 3) + (day * 86_400)) }
    end
    last = Date.new(2027, 1, 4)
    expected = (0..400).map { |back| last - back }.select { |date| (last - date) < 7 || (date.monday? && (last - date) < 56) }
    assert_equal expected, Server::Nightly.dates
    assert_equal 14, expected.size
  ensure
    FileUtils.rm_rf(Server::Nightly.folder)
  end

  # A full disk, and a database that can't be written: edits are refused in words, quotes go on.
  def test_a_full_disk
    publish
    @key = key_for
    connection = ActiveRecord::Base.connection.raw_connection
    # No page that an earlier shop left free.
    connection.execute("VACUUM")
    { "PRAGMA query_only = 1" => [503, /can't be written/, "PRAGMA query_only = 0"],
      "PRAGMA max_page_count = 1" => [507, /disk is full/, "PRAGMA max_page_count = 1073741823"] }.each do |off, (code, said, on)|
      connection.execute(off)
      zones = setup_now["zones"].size
      answer = refused { |at| api(:post, "/api/zones", { name: "Fill #{at} #{"x" * 60}" }) }
      assert_equal [code, true], [status, answer["detail"].match?(said)], off
      assert_equal 200, (api(:post, "/api/quote", CART) && status)
      assert_equal [200, "priced"], [(quote = quoted) && status, quote["status"]]
      assert_operator setup_now["zones"].size, :>=, zones
    ensure
      connection.execute(on)
    end
    assert_equal 200, (api(:post, "/api/quote", CART) && status)
  end

  # Edits, until one of them needs a page that there is not.
  def refused
    400.times do |at|
      answer = yield at
      return answer if status >= 500
    end
    flunk "nothing was refused"
  end

  # Seven nights, and eight Mondays before them; counted, not cut short by one.
  def test_which_nights_are_kept
    today = Date.new(2026, 12, 1)
    kept = (0..90).map { |back| today - back }.select { |date| Server::Nightly.kept?(date, today) }
    assert_equal (0..6).map { |back| today - back }, kept.first(7)
    assert_equal [Date.new(2026, 11, 23)] + (1..6).map { |week| Date.new(2026, 11, 23) - (7 * week) }, kept.drop(7)
  end
end
