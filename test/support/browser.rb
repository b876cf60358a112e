# frozen_string_literal: true

require_relative "server"
require "capybara/minitest"
require "capybara/cuprite"

# The real interface in headless Chromium, against the real stack.
module BrowserSupport
  include ServerSupport
  include Capybara::DSL
  include Capybara::Minitest::Assertions

  CHROMIUM = { "no-sandbox" => nil, "disable-gpu" => nil, "disable-quic" => nil, "no-first-run" => nil,
               "disable-background-networking" => nil, "disable-component-update" => nil, "disable-sync" => nil }.freeze
  AXE = File.read(File.join(Server::ROOT, "web/node_modules/axe-core/axe.min.js"))

  Capybara.app = STACK
  Capybara.server = :puma, { Silent: true, Threads: "1:16", queue_requests: false, first_data_timeout: 5 }
  Capybara.enable_aria_label = true
  Capybara.default_max_wait_time = 8
  Capybara.register_driver(:chromium) do |app|
    driver = Capybara::Cuprite::Driver.new(app, window_size: [1280, 800], browser_path: ENV.fetch("CHROMIUM", "/usr/bin/chromium"),
                                                timeout: 30, process_timeout: 60, js_errors: true, browser_options: CHROMIUM.dup)
    # What one origin may ask of another is tested too.
    driver.options[:browser_options].delete(:"disable-web-security")
    driver
  end
  Capybara.default_driver = :chromium

  def setup = fresh
  def teardown = Capybara.reset_sessions!
  def board = find("#section")
  def bench = find("#bench")
  def zone(name) = find("section[aria-label='Zone #{name}']")
  def press(*keys) = page.driver.browser.keyboard.type(*keys)

  # @return [Hash] an item of the setup as the server tells it now
  def find_setup(list, id) = setup_now.fetch(list).find { |item| item["id"] == id }

  # While the block runs, a file of goods is on its way into the database.
  def storing
    open = Queue.new
    close = Queue.new
    thread = Thread.new do
      Server::LongChange.run("import", "product") do |change|
        open << true
        close.pop
        change.finish({})
      end
    ensure
      ActiveRecord::Base.connection_handler.clear_active_connections!
    end
    open.pop
    yield
  ensure
    close << true
    thread.join
  end

  # Asks axe-core for violations of WCAG 2.2 A and AA on the page as it stands.
  def assert_accessible(what)
    page.driver.browser.evaluate("(() => { #{AXE}; return true })()") unless page.evaluate_script("!!window.axe")
    found = page.driver.browser.evaluate_async(<<~JS, 30)
      axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] })
         .then((result) => arguments[0](result.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.target + " " + n.failureSummary).join("; "))))
    JS
    assert_empty found, what
  end
end
