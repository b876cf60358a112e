# frozen_string_literal: true

module Server
  module Records
    # A browser in which somebody is signed in. Only a digest of what its cookie holds is kept, and no address.
    class Session < ActiveRecord::Base
      belongs_to :person, inverse_of: :sessions

      # @return [Hash] Session of the contract
      def document
        { id: id, browser: browser, made_at: made_at.utc.iso8601, seen_at: seen_at.utc.iso8601 }
      end
    end
  end
end
