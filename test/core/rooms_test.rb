# frozen_string_literal: true

require "prism"
require_relative "../support/core"

# The rooms of the core stand in an order, and names are used in one direction only: in its own room and in those after
# it. Every constant that any file reads is looked at.
class RoomsTest < Minitest::Test
  include CoreSupport

  FILES = Dir[File.join(ROOT, "core/gate_mile/**/*.rb")].freeze
  # What the core may use of the world outside: the language, its standard library, and the IANA time zones.
  OUTSIDE = %w[ArgumentError Array Class Comparable Date Digest Encoding Enumerable Float GateMile Hash Integer JSON Regexp Set StandardError
               Math String Struct Symbol TZInfo Time Rational].freeze

  # Collects the constants that a file reads, with the names it writes itself.
  class Constants < Prism::Visitor
    attr_reader :read, :written

    def initialize
      @read = {}
      @written = []
      super
    end

    # The first name of a path says where it leads.
    def visit_constant_read_node(node) = @read[node.name.name] ||= node.location.start_line

    def visit_constant_write_node(node)
      @written << node.name.name
      super
    end

    def visit_class_node(node) = named(node) { super }
    def visit_module_node(node) = named(node) { super }

    private

    def named(node)
      @written << node.name.name
      yield
    end
  end

  def self.of(source) = Constants.new.tap { |found| Prism.parse(source).value.accept(found) }

  def room(file) = file[%r{core/gate_mile/(\w+)/}, 1]
  def constant(file) = File.basename(file, ".rb").split("_").map(&:capitalize).join
  def rooms = @rooms ||= FILES.to_h { |file| [constant(file), room(file)] }

  # @return [Array<String>] what a source in a room uses of rooms after it, or of nowhere
  def against(room, source)
    found = RoomsTest.of(source)
    (found.read.keys - found.written - OUTSIDE).filter_map do |name|
      to = rooms[name] or next "#{name} of nowhere"
      "#{name} of #{to}" if GateMile::ROOMS.index(to) > GateMile::ROOMS.index(room)
    end
  end

  def test_names_are_used_in_one_direction
    assert_empty(FILES.map { |file| room(file) }.uniq - GateMile::ROOMS)
    assert_equal FILES.size, rooms.size, "two files define the same name"
    wrong = FILES.to_h { |file| [file.delete_prefix("#{ROOT}/"), against(room(file), File.read(file))] }
    assert_empty(wrong.reject { |_, names| names.empty? })
  end

  # The look itself: each of these is found.
  def test_an_arrow_against_the_order_is_found
    assert_equal ["Quote of quote"], against("goods", "module GateMile; class Lot; def quote = Quote.of(1); end; end")
    assert_equal ["Plan of pricing"], against("parcels", "module GateMile; class Box < Value.of(:a); MOST = Plan::GROUPS; end; end")
    assert_equal ["ActiveRecord of nowhere"], against("book", "module GateMile; class Book; def all = ActiveRecord::Base; end; end")
    assert_empty against("quote", "module GateMile; class Quote; NONE = []; def plan(rate) = rate.is_a?(Rate) ? NONE : Money; end; end")
  end

  # Every sentence of the flow has its file; and the file in which a quote is made is a short one.
  def test_a_quote_reads_in_one_short_file
    assert_operator File.foreach(File.join(ROOT, "core/gate_mile/quote/program.rb")).count, :<, 300
    steps = File.read(File.join(ROOT, "core/gate_mile/quote/program.rb"))[/def work.*?\n    end\n/m]
    order = ["Allowed.of", "Split.of", "ordinary(", "Treated.of", "settled(", "judged(", "named(", "finished("].map { |step| steps.index(step) }
    assert_equal order, order.compact.sort, "the steps stand in their order"
  end
end
