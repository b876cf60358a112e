# frozen_string_literal: true

module GateMile
  # The treatments that reach one thing, in the order in which they are looked at, each with where it counts.
  #
  # reach: the rates in use at which it applies; wins: those at which its price part is the first that applies, nil
  # where it has none; shadowed_by: the {Treatment} that takes its place where it wins nowhere.
  class Precedence < Value.of(:treatment, :level, :reach, :wins, :shadowed_by)
    # @param book [Book]
    # @param placed [Array<Placed>] of {Treatments#on}
    # @return [Array<Precedence>]
    def self.of(book, placed)
      taken = {}
      rates = book.rates_in_use
      placed.map do |item|
        reach = rates.select { |rate| item.treatment.applies?(rate.zone, rate.method_id) }.map(&:id)
        if item.treatment.price
          pricing(item, reach,
                  taken)
        else
          new(treatment: item.treatment, level: item.level, reach: reach)
        end
      end
    end

    # @param taken [Hash] the treatment whose price counts, by rate id; filled on the way
    def self.pricing(item, reach, taken)
      wins, lost = reach.partition { |id| !taken.key?(id) }
      wins.each { |id| taken[id] = item.treatment }
      new(treatment: item.treatment, level: item.level, reach: reach, wins: wins,
          shadowed_by: (taken[lost.first] if wins.empty? && lost.any?))
    end
    private_class_method :pricing

    # @return [Symbol] :off; :nowhere (no rate in use is within its limits); :shadowed; :partly (its price counts at
    #   some of its rates); :in_force
    def state
      return :off unless treatment.active
      return :nowhere if reach.empty?
      return :in_force if wins.nil? || wins.size == reach.size

      return :partly if wins.any?

      treatment.restricts? ? :in_force : :shadowed
    end

    # @return [Hash] for JSON
    def dump
      { "treatment" => treatment.id, "level" => level.to_s, "state" => state.to_s, "reach" => reach, "wins" => wins,
        "shadowed_by" => shadowed_by&.id }
    end
  end
end
