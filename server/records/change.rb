# frozen_string_literal: true

module Server
  module Records
    # One recorded change of the setup: which rows, before and after.
    class Change < ActiveRecord::Base
      scope :done, -> { where(undone: false).order(id: :desc) }
      scope :undone, -> { where(undone: true).order(:id) }

      # @return [Hash] for JSON, without the rows
      def document = { "id" => id, "action" => action, "kind" => kind, "names" => names, "at" => at.utc.iso8601 }
    end
  end
end
