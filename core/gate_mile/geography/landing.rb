# frozen_string_literal: true

module GateMile
  # Where an address lands among the zones.
  #
  # status: :zone (with zone, area and, where one decided, clause), :none (no zone covers it) or :undetermined
  # (candidates: the zones still possible, nil among them where it may be none; decides: the field that would tell).
  # remarks: those of {Place}, where there are any.
  class Landing < Value.of(:status, :zone, :area, :clause, :candidates, :decides, :remarks)
    # Areas are long lists; what a quote shows of one is its place and the clause that decided.
    # @return [Hash] for JSON
    def dump
      { "status" => status.to_s, "zone" => zone&.id, "area" => area && place, "clause" => clause&.text,
        "candidates" => candidates&.map { |candidate| candidate&.id }, "decides" => decides,
        "remarks" => remarks&.map(&:to_s) }.compact
    end

    private

    def place = { "kind" => area.kind.to_s, "country" => area.country }.compact
  end
end
