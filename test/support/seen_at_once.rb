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

    def find_within(node, method, selector) = find_all(method, selector, { "objectId" => Direct.of(node) })

    private

    def find_all(method, selector, within = nil)
      selector = selector.delete_suffix("[]") if method == :xpath
      given = [method, selector, within].compact
      nodes = Direct.plainly { evaluate(format(FIND, given.each_index.map { |at| "arguments[#{at}]" }.join(", ")), *given) }
      seen = nodes.empty? ? [] : JSON.parse(evaluate("JSON.stringify(window.seenAtOnce ?? [])"))
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

  # Ferrum asks the browser for what it has told already, each time that something is done with a node: which object it
  # is, and whether a list of nodes holds itself. That is half of all that is said.
  module Direct
    # @param node [Ferrum::Node]
    # @return [String] the object that it is for the browser
    def self.of(node)
      node.instance_variable_get(:@object_id) || node.page.command("DOM.resolveNode", nodeId: node.node_id).dig("object", "objectId")
    end

    # @yield what is answered with nodes and nothing else
    def self.plainly
      Thread.current[:plainly] = true
      yield
    ensure
      Thread.current[:plainly] = nil
    end

    private

    def call(expression:, arguments: [], wait: 0, handle: true, **options)
      return super if options[:on].nil?

      response = @page.command("Runtime.callFunctionOn", wait: wait, slowmoable: true, objectId: Direct.of(options.delete(:on)),
                                                         functionDeclaration: expression, arguments: prepare_args(arguments), **options)
      handle_error(response)
      handle ? handle_response(response["result"]) : response.dig("result", "value")
    rescue Ferrum::BrowserError => e
      # Of a page that is gone.
      raise unless e.is_a?(Ferrum::NoExecutionContextError) || e.message.include?("object with given id")

      raise Ferrum::NodeNotFoundError, { "message" => "node is not there any more" }
    end

    def prepare_args(args) = super(args.map { |arg| arg.is_a?(Ferrum::Node) ? { "objectId" => Direct.of(arg) } : arg })
    def cyclic?(object_id) = Thread.current[:plainly] ? {} : super
  end

  Ferrum::Frame.prepend(Direct)
  Capybara::Cuprite::Browser.prepend(Finding)
  Capybara::Cuprite::Node.prepend(Cached)
end
