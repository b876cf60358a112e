# frozen_string_literal: true

module GateMile
  # Where an address lands among the zones.
  #
  # status: :zone (with zone, area and, where one decided, clause), :none (no zone covers it) or :undetermined
  # (candidates: the zones still possible, nil among them where it may be none; decides: the field that would tell).
  # place, address: what landed, nil where no country is known.
  class Landing < Value.of(:status, :zone, :area, :clause, :candidates, :decides, :place, :address)
    # @return [Array<Symbol>] what the address says that is not quite right, or of a special kind ({Place::REMARKS})
    def remarks = place ? place.remarks(address) : []
  end
end
