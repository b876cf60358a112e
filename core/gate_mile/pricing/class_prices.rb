# frozen_string_literal: true

module GateMile
  # How a plan prices one class: a schedule, charged once for all its goods or for each unit; or not carried.
  #
  # group: id of the class, nil for everything else; carried; charge: "once" or "unit"; schedule: nil where not carried.
  class ClassPrice < Value.of(:group, :carried, :charge, :schedule)
    CHARGES = %w[once unit].freeze

    # @param reader [Reader]
    # @param currency [Currency]
    # @param group [String, nil]
    # @return [ClassPrice]
    def self.read(reader, currency, group)
      carried = reader.flag("carried", default: true)
      charge = reader.choice("charge", among: CHARGES, default: "once")
      schedule = reader.object("schedule", required: carried)&.then { |item| Schedule.read(item, currency) }
      new(group: group, carried: carried, charge: charge, schedule: carried ? schedule : nil)
    end

    # @return [Hash] for JSON
    def dump
      return { "carried" => false } unless carried

      { "carried" => true, "charge" => charge, "schedule" => schedule.dump }
    end
  end

  # The classes of a plan, and what holds for everything else.
  #
  # list: {ClassPrice}s; others: {ClassPrice} or nil; unclassed: whether goods without a class belong to the others.
  class ClassPrices < Value.of(:list, :others, :unclassed)
    class << self
      # @param reader [Reader] of the plan
      # @param currency [Currency]
      # @return [ClassPrices]
      def read(reader, currency)
        seen = {}
        list = reader.list("classes", required: false, most: 500) do |item|
          group = item.text("class")
          item.problem("class", :twice, first: seen[group] + 1) if seen.key?(group)
          seen[group] ||= seen.size
          ClassPrice.read(item, currency, group)
        end
        others = reader.object("others", required: false)
        unclassed = others&.flag("unclassed", default: false) || false
        new(list: list, others: others && ClassPrice.read(others, currency, nil).tap { others.finish },
            unclassed: unclassed)
      end
    end

    # @param load [Load]
    # @return [ClassPrice, Refusal]
    def for(load)
      own = load.group && list.find { |item| item.group == load.group }
      own ||= others if load.group || unclassed
      return Refusal.new(code: :no_class_price, incomplete: true, numbers: told(load)) if own.nil?

      own.carried ? own : Refusal.new(code: :not_carried, numbers: told(load))
    end

    # @return [Array<ClassPrice>]
    def all = [*list, *others]

    # @return [Hash] for JSON, parts of a plan
    def dump
      { "classes" => list.map { |item| { "class" => item.group, **item.dump } },
        "others" => others && { **others.dump, "unclassed" => unclassed } }
    end

    private

    def told(load) = { names: load.names, class: load.group }
  end
end
