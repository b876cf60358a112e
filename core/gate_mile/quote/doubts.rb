# frozen_string_literal: true

module GateMile
  # What rules of which it is not known whether they hold could change at one method: each way in which they may hold is
  # tried, so that a fact is named only where something depends on it. Rules with the same conditions hold together.
  class Doubts
    # Conditions that are tried in every combination; with more of them all are taken to change something.
    MOST = 6
    private_constant :MOST

    # @param ruling [Ruling, nil]
    # @param method [String] id
    # @param ordinary [Lot] its ordinary lines
    # @yieldparam orders [Array<Array(Rule, Action)>] what rules would do to it
    # @yieldreturn [Judging::Judged]
    # @return [Doubts, nil] nil where all is known
    def self.of(ruling, method, ordinary)
      undecided = ruling ? ruling.undecided(method, ordinary) : []
      new(undecided) { |holding| yield(ruling.supposed(method, ordinary, holding)) } if undecided.any?
    end

    # @param undecided [Array<Ruling::Undecided>] at least one
    # @yieldparam holding [Array<Integer>] places of the rules that hold
    # @yieldreturn [Judging::Judged]
    def initialize(undecided, &judge)
      @groups = undecided.group_by { |one| [one.fact, one.tree] }.values
      @ways = (0...(1 << @groups.size)).map { |way| told(way, &judge) } if @groups.size <= MOST
    end

    # @return [Array<Symbol>] facts on which it depends what is said of the method: whether it is there, its price, its
    #   name, its messages
    def facts = deciding(&:itself)

    # @return [Array<Symbol>] facts on which it depends whether it is there for nothing
    def freeing = deciding { |said| free_way?(said) }

    # @return [Boolean] whether it is there for nothing in some way
    def free? = @ways.nil? || @ways.any? { |said| free_way?(said) }

    private

    def told(way)
      judged = yield(@groups.each_index.flat_map { |at| way[at] == 1 ? @groups[at].map(&:at) : [] })
      judged.causes.any? ? nil : [judged.price, judged.name, judged.messages]
    end

    def free_way?(said) = !said.nil? && said.first.zero?

    def deciding
      return @groups.map { |group| group.first.fact }.uniq if @ways.nil?

      matter = @groups.each_index.select do |at|
        bit = 1 << at
        @ways.each_index.any? { |way| way[at].zero? && yield(@ways[way]) != yield(@ways[way | bit]) }
      end
      matter.map { |at| @groups[at].first.fact }.uniq
    end
  end
end
