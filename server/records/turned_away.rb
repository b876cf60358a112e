# frozen_string_literal: true

module Server
  module Records
    # Carts of one day that could get nothing, those alike together.
    class TurnedAway < ActiveRecord::Base
      self.table_name = "turned_away"
    end
  end
end
