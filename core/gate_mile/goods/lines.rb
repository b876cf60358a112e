# frozen_string_literal: true

module GateMile
  # Brings the lines of a cart together with what is known of their goods.
  module Lines
    class << self
      # @param cart [Cart]
      # @param assortment [Assortment]
      # @return [Array<Line>] in the cart's order
      def of(cart, assortment)
        position = -1
        lines = cart.lines.map do |sent|
          position += 1
          Line.new(assortment.goods(sent, position), sent.quantity, position)
        end
        less_order(less_own(lines, cart), cart)
      end

      private

      # A line gives away no more than it is worth.
      def less_own(lines, cart)
        return lines if cart.lines.none?(&:discount)

        lines.zip(cart.lines).map do |line, sent|
          sent.discount ? less(line, [sent.discount.minor, line.before || 0].min) : line
        end
      end

      # An order discount is spread over what lines are worth after their own.
      def less_order(lines, cart)
        return lines if cart.order_discount.nil? || cart.order_discount.zero?

        shares = Discount.spread(cart.order_discount.minor, lines.map { |line| line.after || 0 })
        lines.zip(shares).map { |line, share| less(line, share) }
      end

      def less(line, minor)
        return line if minor.zero? || !line.known

        DiscountedLine.new(line.goods, line.quantity, line.position, line.before, line.after - minor)
      end
    end
  end
end
