# frozen_string_literal: true

require "capybara/cuprite"

# A click can miss what has just been drawn, because the page is still moving, above all on a busy machine: the pointer goes
# down beside it, or comes up beside it. Such a click is repeated, as a person would repeat it.
module SurePress
  TIMES = 3
  WATCH = <<~JS
    this.pressed = false;
    this.down = null;
    this.addEventListener('pointerdown', (event) => (this.down = event), { capture: true, once: true });
    this.addEventListener('click', () => (this.pressed = true), { capture: true, once: true })
  JS
  # What opens at the pointer's going down (lists to choose from) keeps the event from the rest of the page.
  REACHED = "this.pressed || this.down?.defaultPrevented || this.disabled || !this.isConnected"

  def click(keys = [], **options)
    TIMES.times do
      watch
      super
      break if reached?
    end
  end

  private

  def watch
    node.evaluate("(() => { #{WATCH} })()")
  rescue Ferrum::NodeNotFoundError => e
    raise Capybara::Cuprite::ObsoleteNode.new(self, e.response)
  end

  # An element that is gone was clicked.
  def reached?
    node.evaluate(REACHED)
  rescue Ferrum::Error
    true
  end
end
Capybara::Cuprite::Node.prepend(SurePress)
