# frozen_string_literal: true

module GateMile
  # Customer groups: only these, or all but these. Customers of no group are among "all but these".
  class GroupChoice < Value.of(:only, :except)
    # @param id [String, nil]
    # @return [Boolean]
    def include?(id) = only ? only.include?(id) : !except.include?(id)

    # @param id [String] of a group that goes
    # @return [GroupChoice, nil] nil where it named no other
    def without(id)
      return self unless ids.include?(id)

      left = only ? with(only: only - [id]) : with(except: except - [id])
      left unless left.ids.empty?
    end

    # @return [Array<String>] ids that it names
    def ids = only || except || []
  end
end
