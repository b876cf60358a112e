# frozen_string_literal: true

# Typing in a schedule of 1,000 steps: how much script time each key press takes while the strip and the bench follow.
#   bundle exec ruby perf/typing.rb        (needs the built front end and Chromium, see bin/test)

require_relative "page"

STEPS = sized(1000, 30)
KEYS = sized("12.34", "1")
ROWS = sized([2, 400, 990], [2]).freeze

def script_time(browser)
  metrics = browser.page.command("Performance.getMetrics")["metrics"]
  metrics.find { |metric| metric["name"] == "ScriptDuration" }["value"] * 1000
end

# Only the rows in sight are on the page.
def cell_of(session, row)
  sheet = "document.querySelector(\"[role=grid][aria-label='Price: steps']\")"
  session.find("[role=grid][aria-label='Price: steps']")
  session.execute_script("#{sheet}.scrollTop = #{(row - 1) * 32}")
  session.find("[role=grid][aria-label='Price: steps'] [data-cell='#{row} amount']")
end

# @return [Array<Float>] milliseconds of script for each key, all that it sets off included
def type(session)
  browser = session.driver.browser
  browser.page.command("Performance.enable")
  ROWS.flat_map do |row|
    cell_of(session, row).click
    KEYS.chars.map do |key|
      before = script_time(browser)
      browser.keyboard.type(key)
      sleep 0.7
      script_time(browser) - before
    end
  end
end

Server::Demo.load
steps = Array.new(STEPS) { |at| { "at" => "#{at}0 g", "amount" => format("%.2f", 3 + (at / 100.0)) } }
plan = { "schedule" => { "kind" => "steps", "measure" => "weight", "steps" => steps } }
Server::History.unrecorded { Server::Records::Rate.find("uk-next-day").update!(plan: plan) }

runs = Array.new(sized(3, 1)) do
  session = opened
  session.visit "/#rate=uk-next-day&field=plan"
  cell_of(session, STEPS)
  sleep sized(3, 0.5)
  times = type(session).sort
  session.driver.quit
  times[(times.size * 0.95).ceil - 1]
end
puts format("95 %% of the key presses in a schedule of %<steps>d steps take under %<time>.0f ms of script " \
            "(wanted: under 50); runs: %<runs>s",
            steps: STEPS, time: runs.sort[runs.size / 2], runs: runs.map { |run| format("%.0f", run) }.join(", "))
