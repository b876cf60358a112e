# frozen_string_literal: true

# Frames a second while one scrolls the Board and the catalogue, types into a schedule and drags a zone to another
# place, on the demo: of the frames that the browser could draw, how many it drew.
#   bundle exec ruby perf/frames.rb        (needs the built front end and Chromium, see bin/test)

require_relative "page"

WANTED = 50
SECONDS = sized(2, 0.3)
PRESSES = sized(20, 2)
MOVES = sized(60, 6)
COUNT = <<~JS
  (() => {
    window.frames_at = []
    const tick = (at) => { window.frames_at.push(at); window.frames_timer = requestAnimationFrame(tick) }
    requestAnimationFrame(tick)
  })()
JS
READ = "(cancelAnimationFrame(window.frames_timer), window.frames_at)"
SCROLL = <<~JS
  (() => {
    const box = document.querySelector(arguments[0])
    const most = arguments[1]
    const started = performance.now()
    const step = () => { box.scrollTop += 24; if (performance.now() - started < most) requestAnimationFrame(step) }
    requestAnimationFrame(step)
  })()
JS

def frames(session)
  session.execute_script(COUNT)
  yield
  times = session.evaluate_script(READ)
  # A tiny run is over before a busy machine has drawn a second one.
  abort "no frame was drawn" if times.size < sized(2, 1)
  return 0 if times.size < 2

  (times.size - 1) * 1000 / (times.last - times.first)
end

def scrolled(session, path, box)
  session.visit path
  sleep sized(2, 0.5)
  frames(session) do
    session.execute_script(SCROLL, box, SECONDS * 1000)
    sleep SECONDS
  end
end

def typed(session)
  session.visit "/#rate=uk-tracked&field=plan"
  sleep sized(2, 0.5)
  frames(session) { PRESSES.times { |at| session.driver.browser.keyboard.type((at % 9).to_s) || sleep(0.05) } }
end

def dragged(session)
  session.visit "/zones"
  session.find("button[aria-label^=Drag]", match: :first)
  sleep sized(2, 0.5)
  box = session.evaluate_script(<<~JS)
    (({ x, y }) => [x + 6, y + 10])(document.querySelector('button[aria-label^=Drag]').getBoundingClientRect())
  JS
  mouse = session.driver.browser.mouse
  frames(session) do
    mouse.move(x: box[0], y: box[1]).down
    MOVES.times { |at| mouse.move(x: box[0], y: box[1] + (at * 4)) || sleep(0.015) }
    mouse.up
  end
end

Server::Demo.load
session = opened
{ "scrolling the Board" => -> { scrolled(session, "/", "#section") },
  "scrolling the catalogue" => -> { scrolled(session, "/goods", "[role=grid]") },
  "typing a price" => -> { typed(session) },
  "dragging a zone" => -> { dragged(session) } }.each do |what, measure|
  puts format("%<what>-24s %<rate>.0f frames a second (wanted: %<wanted>d)",
              what: what, rate: measure.call, wanted: WANTED)
end
session.quit
