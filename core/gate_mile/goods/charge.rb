# frozen_string_literal: true

module GateMile
  # What a number of units costs when it is priced apart from the cart: an amount for each, or steps.
  #
  # counting: :unit (one step from 1), :graduated (each unit pays the amount of its own step) or :whole (all units pay
  # the amount of the step that was reached); steps: [[from, {Money}]], ascending, the first from 1.
  class Charge < Value.of(:counting, :steps)
    KINDS = %w[unit graduated whole].freeze
    MOST = 100

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Charge]
    def self.read(reader, currency)
      kind = reader.choice("kind", among: KINDS)
      steps = kind == "unit" ? [[1, reader.money("amount", currency)]] : read_steps(reader, currency)
      reader.finish
      new(counting: kind&.to_sym, steps: steps)
    end

    def self.read_steps(reader, currency)
      last = 0
      reader.list("steps", most: MOST) do |item|
        from = item.whole("from", CartLine::QUANTITIES)
        amount = item.money("amount", currency)
        order(item, from, last) if from
        last = from || last
        [from, amount]
      end.tap { |steps| reader.problem("steps", :missing) if steps.empty? }
    end

    def self.order(item, from, last)
      return item.problem("from", :step_first) if last.zero? && from != 1
      return item.problem("from", :step_twice, from: from) if from == last

      item.problem("from", :step_order, last: last) if from < last
    end
    private_class_method :read_steps, :order

    # @param units [Integer]
    # @return [Array<Array(Integer, Money)>] how many units pay which amount each
    def parts(units)
      return [[units, steps.reverse_each.find { |from,| from <= units }.last]] unless counting == :graduated

      steps.each_with_index.filter_map do |(from, amount), index|
        upto = steps[index + 1]&.first
        count = [units, upto ? upto - 1 : units].min - from + 1
        [count, amount] if count.positive?
      end
    end

    # @param units [Integer] at least 1
    # @return [Money]
    def price(units) = parts(units).map { |count, amount| amount * count }.reduce(:+)

    # @return [Hash] for JSON
    def dump
      return { "kind" => "unit", "amount" => steps.first.last.to_s } if counting == :unit

      { "kind" => counting.to_s,
        "steps" => steps.map { |from, amount| { "from" => from, "amount" => amount.to_s } } }
    end
  end
end
