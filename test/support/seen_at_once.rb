# frozen_string_literal: true

require "capybara/cuprite"

# Capybara looks at every candidate of a query whether it can be seen, and Cuprite asks the browser six times for each.
# Here it is asked once for all that a query found, in the moment in which they are found.
module SeenAtOnce
  FIND = <<~JS
    ((found) => {
      window.seenAtOnce = found.map((node) => _cuprite.isVisible(node))
      return found
    })(_cuprite.find(%s))
  JS

  # Of the browser.
  module Finding
    # @param node [Ferrum::Node] of the last query
    # @return [Boolean, nil] whether it could be seen; nil where that is not known
    def seen(node) = @seen && @seen[node]

    private

    def find_all(method, selector, within = nil)
      selector = selector.delete_suffix("[]") if method == :xpath
      given = [method, selector, within].compact
      nodes = evaluate(format(FIND, given.each_index.map { |at| "arguments[#{at}]" }.join(", ")), *given)
      seen = nodes.empty? ? [] : evaluate("window.seenAtOnce")
      same = seen.is_a?(Array) && seen.size == nodes.size
      @seen = {}.compare_by_identity
      nodes.zip(seen) { |node, known| @seen[node] = known } if same
      nodes.select(&:node?)
    rescue Ferrum::JavaScriptError => e
      raise Capybara::Cuprite::InvalidSelector.new(e.response, method, selector) if e.class_name == "InvalidSelector"

      raise
    end
  end

  # Of what is found.
  module Cached
    def initialize(driver, node)
      super
      known = driver.browser.seen(node)
      @initial_cache = { visible: known } unless known.nil?
    end
  end

  Capybara::Cuprite::Browser.prepend(Finding)
  Capybara::Cuprite::Node.prepend(Cached)
end
