# frozen_string_literal: true

module Server
  module Records
    # From when on a release counts: the last one that is due and was not withdrawn decides.
    class Publication < ActiveRecord::Base
      belongs_to :release

      scope :standing, -> { where(withdrawn_at: nil) }
      scope :in_order, -> { order(:due, :id) }
    end
  end
end
