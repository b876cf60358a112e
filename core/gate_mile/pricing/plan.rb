# frozen_string_literal: true

module GateMile
  # How a rate prices the ordinary lines of a cart: a schedule over the whole cart.
  class Plan < Value.of(:schedule)
    SCHEDULES = { "flat" => Flat }.freeze

    # @param reader [Reader]
    # @param currency [Currency]
    # @return [Plan]
    def self.read(reader, currency)
      schedule = reader.object("schedule")&.then do |item|
        kind = item.choice("kind", among: SCHEDULES.keys)
        SCHEDULES[kind]&.read(item, currency).tap { item.finish if kind }
      end
      new(schedule: schedule).tap { reader.finish }
    end

    # @param hash [Hash] a plan document by itself, as in a book
    # @param currency [Currency]
    # @return [Plan]
    # @raise [Invalid]
    def self.parse(hash, currency)
      reader = Reader.new(hash)
      plan = read(reader, currency)
      reader.problems.any? ? raise(Invalid, reader.problems) : plan
    end

    # @param basket [Basket]
    # @return [Hash, nil] what a carrier must be asked to price it, nil where the plan knows the price itself
    def request(basket) = schedule.request(basket)

    # @return [Boolean] whether it looks at the weights of goods
    def needs_weight? = schedule.needs_weight?

    # @return [Hash] for JSON
    def dump = { "schedule" => schedule.dump }
  end
end
