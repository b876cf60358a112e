# frozen_string_literal: true

module Server
  module Records
    # From when on a release counts: the last one that is due and was not withdrawn decides.
    class Publication < ActiveRecord::Base
      belongs_to :release

      scope :standing, -> { where(withdrawn_at: nil) }
      scope :in_order, -> { order(:due, :id) }

      # It counts from here on: after everything that has counted so far, though the clock may have been set back since.
      # @param now [Time]
      # @return [void]
      def begin(_now)
        last = Publication.standing.where(told: true).where.not(id: id).maximum(:due)
        self.due = last if last && last > due
        update!(told: true)
      end
    end
  end
end
