# frozen_string_literal: true

module GateMile
  # What the audit of a whole setup finds.
  module Audit
    # Of the setup, by what a finding leads to.
    PARTS = { "offer" => :offers, "coupon" => :offers, "rule" => :rules }.freeze
    private_constant :PARTS

    # @param book [Book]
    # @param at [Time] of the audit: offers may have ended by then
    # @param answers [Hash{CarrierRequest => Reply}] what carriers have answered lately
    # @param paid [Hash{Array(String, String) => Array<Money>}] what orders paid lately, by ids of zone and method
    # @param quoted [QuotedFindings] of this book, where they have been asked for already
    # @yield now and then, so that others can go before
    # @return [Array<Finding>] the most harmful first
    def self.findings(book, at:, answers: {}, paid: {}, quoted: QuotedFindings.new(book), &now_and_then)
      found = [[:rates, RateFindings.new(book)], [:zones, ZoneFindings.new(book.zones)],
               [:goods, GoodsFindings.new(book)], [:rates, LiveFindings.new(book, answers)],
               [:rates, FreeFindings.new(book)], [:offers, OfferFindings.new(book, at)],
               [:rules, RuleFindings.new(book)], [:rates, ZeroFindings.new(book)], [:rates, SetupFindings.new(book)],
               [:rates, OpenFindings.new(book)], [nil, figures(book, answers, paid)], [:rates, PlanFindings.new(book)],
               [nil, SenseFindings.new(book, at)], [:rates, quoted]]
      shown = Exhibits.new(book, at)
      Finding.in_order(found.flat_map do |part, one|
        one.list.map do |finding|
          now_and_then&.call
          shown.on(finding).with(part: part || part_of(finding))
        end
      end)
    end

    def self.figures(book, answers, paid) = FigureFindings.new(book, answers: answers, paid: paid)
    private_class_method :figures

    def self.part_of(finding) = PARTS.fetch(finding.setting&.fetch(:kind), :rates)
    private_class_method :part_of
  end
end
