# frozen_string_literal: true

module GateMile
  # What was taken lately for what a shop sends: by carriers in a zone, and by orders of a method there. Of each the
  # least and the most.
  class Takings
    # Answers of carriers that are looked at, at most.
    MOST = 300
    NONE = [].freeze
    private_constant :MOST, :NONE

    # @param book [Book]
    # @param answers [Hash{CarrierRequest => Reply}] what carriers have answered lately
    # @param paid [Hash{Array(String, String) => Array<Money>}] what orders paid lately, by ids of zone and method
    def initialize(book, answers, paid)
      @book = book
      @paid = paid
      @taken = Hash.new { |all, zone| all[zone] = [] }
      answers.first(MOST).each { |request, reply| take(request, reply) }
    end

    # @param zone [String] id
    # @return [Array<Integer>] minor units
    def carriers(zone) = ends(@taken.fetch(zone, NONE))

    # @param zone [String] id
    # @param method [String] id
    # @return [Array<Integer>] minor units
    def orders(zone, method) = ends(@paid.fetch([zone, method], NONE))

    private

    def take(request, reply)
      totals = reply.services.each_value.filter_map { |said| said.total if said.status == :ok }
      zone = @book.zones.land(request.destination).zone if totals.any?
      @taken[zone.id].concat(totals) if zone
    end

    def ends(amounts) = amounts.select { |one| one.currency == @book.currency }.map(&:minor).minmax.compact.uniq
  end
end
