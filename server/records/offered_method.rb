# frozen_string_literal: true

module Server
  module Records
    # How often a method was there to choose on one day.
    class OfferedMethod < ActiveRecord::Base
    end
  end
end
