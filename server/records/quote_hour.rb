# frozen_string_literal: true

module Server
  module Records
    # Quotes of one hour by what came of them.
    class QuoteHour < ActiveRecord::Base
    end
  end
end
