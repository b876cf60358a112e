# frozen_string_literal: true

require_relative "apart"
require_relative "server"
require "capybara/minitest"
# How many seconds an element must stay in place before it is clicked, and how long a click is given to open another page.
ENV["FERRUM_NODE_MOVING_WAIT"] = "0.02"
ENV["FERRUM_CLICK_WAIT"] = "0.02"
require_relative "sure_press"
require_relative "seen_at_once"

# The real interface in headless Chromium, against the real stack.
module BrowserSupport
  include ServerSupport
  include Capybara::DSL
  include Capybara::Minitest::Assertions

  CHROMIUM = { "no-sandbox" => nil, "disable-gpu" => nil, "disable-quic" => nil, "no-first-run" => nil,
               "disable-background-networking" => nil, "disable-component-update" => nil, "disable-sync" => nil }.freeze
  AXE = File.read(File.join(Server::ROOT, "web/node_modules/axe-core/axe.min.js"))

  APPLICATION = Apart.application
  TURNSTILE = APPLICATION.turnstile
  Capybara.run_server = false
  # What shops stand on, in this process.
  Capybara.server = :puma, { Silent: true }
  Capybara.app_host = Apart.origin
  Capybara.enable_aria_label = true
  # Two browsers and two applications share two processors: what takes a moment alone may take a while.
  Capybara.default_max_wait_time = 15
  # To ask costs the browser more than to wait.
  Capybara.default_retry_interval = 0.1
  Capybara.register_driver(:chromium) do |app|
    driver = Capybara::Cuprite::Driver.new(app, window_size: [1280, 800], browser_path: ENV.fetch("CHROMIUM", "/usr/bin/chromium-headless-shell"),
                                                timeout: 30, process_timeout: 60, js_errors: true, browser_options: CHROMIUM.dup)
    # What one origin may ask of another is tested too.
    driver.options[:browser_options].delete(:"disable-web-security")
    driver
  end
  Capybara.default_driver = :chromium

  # Edits follow each other quickly here, and few tests look at what has to be quoted for the audit: it rests so long
  # that the others do not pay for it.
  def before_setup
    super
    APPLICATION.set("GATE_MILE_AUDIT_REST", "25")
  end

  # The whole audit is wanted here, soon after an edit.
  def audited_soon = APPLICATION.set("GATE_MILE_AUDIT_REST", "0.5")

  def setup = fresh

  def teardown
    TURNSTILE.open
    # The page is gone; requests still waiting for an audit are answered now.
    page.driver.reset!
    APPLICATION.rest
    Capybara.reset_sessions!
  end

  # Starts over, as in ServerSupport, where the application is.
  def fresh(book = DEMO)
    clear_cookies
    APPLICATION.fresh({ DEMO => :flat, WHOLE_DEMO => :whole }.compare_by_identity.fetch(book, book))
  end

  # While the block runs, it is that much later for the application.
  def later(seconds)
    APPLICATION.later(seconds)
    yield
  ensure
    APPLICATION.later(0)
  end

  def board = find("#section")
  def bench = find("#bench")
  def zone(name) = find("section[aria-label='Zone #{name}']")
  # The line of the bench that buyer, street and moment open from.
  def open_buyer = within(bench) { find("button[aria-expanded=false]", text: "Buyer", match: :first).click }

  # In no field: there the keys belong to the field.
  def press_undo
    page.execute_script("document.activeElement?.blur()")
    press([:ctrl, "z"])
  end

  # The lists, boxes and radio buttons of the interface are buttons with a role, named by a label of the page or their own.
  # @param checked [Boolean, nil] whether it is; nil where that is all the same
  def control(role, name, checked: nil)
    quoted = XPath::Renderer.new(:html).string_literal(name)
    # A name that ends in a comma and a space is only the beginning of one.
    own = name.end_with?(", ") ? "starts-with(@aria-label, #{quoted})" : "@aria-label=#{quoted}"
    labelled = "#{own} or @id=//label[normalize-space()=#{quoted}]/@for or ancestor::label[contains(normalize-space(), #{quoted})]"
    state = checked.nil? ? "" : "[@aria-checked='#{checked}']"
    find(:xpath, ".//button[@role='#{role}'][#{labelled}]#{state}")
  end

  # Chooses from a list, which opens beside the page, wherever the test looks just now.
  def select(words, from:)
    control("combobox", from).click
    page.document.find("[role=option]", text: /\A#{Regexp.escape(words)}\z/).click
  end

  def choose(name) = control("radio", name).click
  def check(name) = control("checkbox", name, checked: false).click
  def uncheck(name) = control("checkbox", name, checked: true).click
  def open_fold(title) = find("button[aria-expanded=false]", text: title).click

  def assert_chosen(name) = assert(control("radio", name, checked: true))
  def assert_selected(words, from:) = control("combobox", from).assert_text(words)

  # Drags a row of a list that is in order to where another one stands, as a hand does it: over what lies between.
  def drag_row(name, to:)
    mouse = page.driver.browser.mouse
    start, finish = [name, to].map do |of|
      page.evaluate_script("(({ x, y, width, height }) => [x + width / 2, y + height / 2])(" \
                           "document.querySelector(\"button[aria-label='Drag #{of}']\").getBoundingClientRect())")
    end
    mouse.move(x: start[0], y: start[1]).down
    8.times { |at| mouse.move(x: start[0], y: start[1] + ((finish[1] - start[1]) * (at + 1) / 8)) }
    sleep 0.2
    mouse.up
  end

  def sheet_cell(sheet, cell) = page.document.find("[role=grid][aria-label='#{sheet}'] [data-cell='#{cell}']")

  def assert_cell(text, sheet, cell)
    page.document.assert_selector("[role=grid][aria-label='#{sheet}'] [data-cell='#{cell}']",
                                  **(text.is_a?(Regexp) ? { text: text } : { exact_text: text }))
  end

  # Writes over a cell of a sheet, as one does: by typing where it has the focus.
  def type_cell(sheet, cell, text, *keys)
    place = sheet_cell(sheet, cell).click
    if place.has_selector?("input", wait: 0)
      place.find("input").set(text)
    else
      press(text)
    end
    press(*keys) if keys.any?
  end

  # @return [String] what is copied where the focus is
  def copied
    page.evaluate_script(<<~JS)
      (() => {
        const data = new DataTransfer()
        document.activeElement.dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }))
        return data.getData('text')
      })()
    JS
  end

  def paste(text)
    page.execute_script(<<~JS, text)
      const data = new DataTransfer()
      data.setData('text', arguments[0])
      document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    JS
  end

  def press(*keys) = page.driver.browser.keyboard.type(*keys)

  # @return [Hash] an item of the setup as the server tells it now
  def find_setup(list, id) = setup_now.fetch(list).find { |item| item["id"] == id }

  # @return [Object, nil] what the block returns as soon as it is something; nil where it never is
  def eventually(&block)
    150.times do
      found = still_there(&block)
      return found if found

      sleep 0.1
    end
    nil
  end

  # What is taken off the page while one looks at it is looked for anew.
  def still_there
    yield
  rescue Capybara::Cuprite::ObsoleteNode
    nil
  end

  # To another address without loading the page anew.
  def visit_within(address)
    page.execute_script("history.pushState({}, '', #{address.to_json}); dispatchEvent(new PopStateEvent('popstate', { state: {} }))")
  end

  # While the block runs, a file of goods is on its way into the database.
  def storing
    APPLICATION.storing(true)
    yield
  ensure
    APPLICATION.storing(false)
  end

  # Asks axe-core for violations of WCAG 2.2 A and AA on the page as it stands.
  def assert_accessible(what)
    page.driver.browser.evaluate("(() => { #{AXE}; return true })()") unless page.evaluate_script("!!window.axe")
    found = page.driver.browser.evaluate_async(<<~JS, 30)
      axe.run(document, { resultTypes: ["violations"], preload: false, runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] })
         .then((result) => arguments[0](result.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.target + " " + n.failureSummary).join("; "))))
    JS
    assert_empty found, what
  end
end
