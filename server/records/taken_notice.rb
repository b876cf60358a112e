# frozen_string_literal: true

module Server
  module Records
    # Id of a message of a quote server that has counted.
    class TakenNotice < ActiveRecord::Base
      # @param id [String]
      # @param now [Time]
      # @return [Boolean] false where it has been taken before
      def self.take(id, now = Time.now) = insert_all([{ id: id, at: now }], unique_by: :id, returning: :id).any?
    end
  end
end
