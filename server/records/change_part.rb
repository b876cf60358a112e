# frozen_string_literal: true

module Server
  module Records
    # Some of the rows of a very large change.
    class ChangePart < ActiveRecord::Base
      belongs_to :change, inverse_of: :parts
    end
  end
end
