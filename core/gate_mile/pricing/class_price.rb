# frozen_string_literal: true

module GateMile
  # How a plan prices one class: a schedule, charged once for all its goods or for each unit; or not carried.
  #
  # group: id of the class, nil for everything else; carried; charge: "once" or "unit"; schedule: nil where not carried.
  class ClassPrice < Value.of(:group, :carried, :charge, :schedule)
    CHARGES = %w[once unit].freeze

    # @param pointer [String] where it stands
    # @yieldparam amount [Money]
    # @yieldparam pointer [String]
    # @yieldreturn [Money]
    # @return [ClassPrice]
    def map_amounts(pointer, &) = with(schedule: schedule&.map_amounts("#{pointer}/schedule", &))
  end
end
