# frozen_string_literal: true

# The built interface in Chromium, on a database of its own: for benchmarks of what a page does.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "json"
require "tmpdir"
require "capybara"
require "capybara/cuprite"
require_relative "sizes"

ENV["GATE_MILE_DATABASE"] = File.join(Dir.mktmpdir, "perf.sqlite3")
require_relative "../server/boot"

OPTIONS = { "no-sandbox" => nil, "disable-gpu" => nil, "disable-quic" => nil }.freeze

Capybara.app = Rack::Builder.parse_file(File.join(Server::ROOT, "server/config.ru"))
Capybara.server = :puma, { Silent: true, Threads: "1:4" }
Capybara.enable_aria_label = true
Capybara.default_max_wait_time = 30
Capybara.register_driver(:chromium) do |app|
  Capybara::Cuprite::Driver.new(app, window_size: [1280, 800], browser_options: OPTIONS.dup, timeout: 60,
                                     browser_path: ENV.fetch("CHROMIUM", "/usr/bin/chromium-headless-shell"))
end

# Held here, too: the server in this process forks, and a browser that only the main thread holds would be collected
# there, and ended.
SESSIONS = [] # rubocop:disable Style/MutableConstant

# @return [Capybara::Session]
def opened = Capybara::Session.new(:chromium, Capybara.app).tap { |session| SESSIONS << session }
