# frozen_string_literal: true

module Server
  module Records
    # A method in a zone, with its plan.
    class Rate < Base
      belongs_to :zone, inverse_of: :rates, optional: true
      belongs_to :shipping_method, optional: true

      words :name, required: false
      validates :zone_id, :shipping_method_id, presence: { message: Words.of(:unknown_id) }
      validates :shipping_method_id, uniqueness: { scope: :zone_id, message: Words.of(:method_in_zone) }
      validate :plan_readable

      # @return [Hash] as in a book document
      def document
        { "id" => id, "zone" => zone_id, "method" => shipping_method_id, "name" => name, "active" => active,
          "plan" => plan }
      end

      private

      def plan_readable
        self.plan = plan && GateMile::Plan.parse(plan, Store.current.money).dump
      rescue GateMile::Invalid => e
        e.problems.each do |problem|
          errors.add(:plan, Words.of(problem.code, **problem.numbers), pointer: "/plan#{problem.pointer}")
        end
      end
    end
  end
end
