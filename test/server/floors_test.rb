# frozen_string_literal: true

require "minitest/autorun"
require "prism"
require_relative "../../server/boot"

# The folders of server/ stand in an order (Server::FLOORS), and names are used in one direction only: on their own
# floor and on those above it. Every constant that any file reads is looked at. The files that load and start the
# application may use every floor.
class FloorsTest < Minitest::Test
  FOLDER = File.join(Server::ROOT, "server")
  FILES = Server::FLOORS.flat_map { |floor| Dir[File.join(FOLDER, floor, "**/*.rb")] }.freeze
  # Not on a floor: what starts the application, what a command line runs, and steps of the database's tables.
  ABOVE = %w[commands db].freeze

  # The constants that a file reads, each with the modules and classes that it stands in.
  class Constants < Prism::Visitor
    attr_reader :read

    def initialize
      @inside = []
      @read = []
      super
    end

    # What only shows while it runs (`self.class::RANKS`) leads nowhere else.
    def visit_constant_path_node(node)
      @read << [@inside.dup, node.full_name]
    rescue Prism::ConstantPathNode::DynamicPartsInConstantPathError
      visit(node.parent)
    end

    def visit_constant_read_node(node) = @read << [@inside.dup, node.name.name]
    def visit_module_node(node) = inside(node)

    def visit_class_node(node)
      visit(node.superclass)
      inside(node)
    end

    private

    def inside(node)
      @inside.push(node.constant_path.slice)
      visit(node.body)
      @inside.pop
    end
  end

  def self.of(source) = Constants.new.tap { |found| Prism.parse(source).value.accept(found) }.read

  def floor(file) = file.delete_prefix("#{FOLDER}/")[%r{\A\w+(?=/)}]

  # @return [Hash{String => String}] the file that Zeitwerk expects each name in
  def names
    @names ||= FILES.to_h do |file|
      parts = file.delete_prefix("#{FOLDER}/").delete_suffix(".rb").split("/")
      parts.shift unless Server::NAMESPACES.include?(parts.first)
      [["Server", *parts.map { |part| part.split("_").map(&:capitalize).join }].join("::"), file]
    end
  end

  # As Ruby looks a name up: from the innermost module outwards.
  # @return [String, nil] the file that it leads to
  def led_to(inside, path)
    scopes = (0..inside.size).map { |out| inside.first(inside.size - out).join("::") }
    scope = scopes.find { |name| known?([name, path[/\A\w+/]].reject(&:empty?).join("::")) } or return
    parts = [scope, path].reject(&:empty?).join("::").split("::")
    parts.size.downto(1).filter_map { |size| names[parts.first(size).join("::")] }.first
  end

  def known?(name) = names.key?(name) || names.any? { |other, _| other.start_with?("#{name}::") }

  # @return [Array<String>] what a source on a floor uses of those above it
  def against(floor, source)
    FloorsTest.of(source).filter_map do |inside, path|
      to = led_to(inside, path) or next
      "#{path} of #{floor(to)}" if Server::FLOORS.index(floor(to)) > Server::FLOORS.index(floor)
    end.uniq
  end

  def test_every_folder_is_a_floor
    assert_equal Server::FLOORS.sort, Dir.children(FOLDER).select { |name| File.directory?(File.join(FOLDER, name)) }.sort - ABOVE
    assert_equal FILES.size, names.size, "two files define the same name"
  end

  def test_names_are_used_in_one_direction
    wrong = FILES.to_h { |file| [file.delete_prefix("#{FOLDER}/"), against(floor(file), File.read(file))] }
    assert_empty(wrong.reject { |_, found| found.empty? })
  end

  # What stands above uses the floors; none of them knows it.
  def test_nothing_knows_what_starts_it
    asking = FILES.select { |file| FloorsTest.of(File.read(file)).any? { |_, path| path.match?(/\A(Server::)?App\b/) } }
    assert_empty(asking.map { |file| file.delete_prefix("#{FOLDER}/") })
  end

  # The look itself: each of these is found, in either direction.
  def test_an_arrow_against_the_order_is_found
    assert_equal ["History of history"], against("records", "module Server; module Records; class Rate < Base; def a = History.edit; end; end; end")
    assert_equal ["Routes::Pages of routes"], against("http", "module Server; class Doors; KEPT = Routes::Pages; end; end")
    assert_equal ["Server::CheckoutDoor of checkout"], against("people", "module Server; class People; X = Server::CheckoutDoor; end; end")
    assert_equal ["Doors::Pace of http"], against("ground", "module Server; module Settings; def self.pace = Doors::Pace; end; end")
    assert_empty against("routes", "module Server; module Routes; module Rates; def self.a(app) = History.edit { Records::Rate.new }; end; end; end")
    assert_empty against("records", "module Server; module Records; class Area; def a = GateMile::Documents.read(Words); end; end; end")
  end

  # Both servers implement every method of the checkout door's port.
  def test_both_ends_of_the_checkout_port_answer_to_all_of_it
    [Server::Checkout, Server::QuoteCheckout].each do |end_of_it|
      Server::CheckoutPort::CALLS.each do |call, least|
        arity = end_of_it.instance_method(call).arity
        assert arity == least || (arity.negative? && -arity - 1 <= least), "#{end_of_it}##{call} takes #{arity}"
      end
    end
    door = File.read(File.join(FOLDER, "checkout/checkout_door.rb")).scan(/@checkout\.(\w+)/).flatten.map(&:to_sym)
    assert_empty door - Server::CheckoutPort::CALLS.keys
  end
end
