# frozen_string_literal: true

module Server
  module Records
    # One recorded change of the setup: which rows, before and after. Those of a very large one stand in parts.
    class Change < ActiveRecord::Base
      has_many :parts, class_name: "ChangePart", inverse_of: :change, dependent: :delete_all

      # What is still being stored is in no list.
      scope :done, -> { where(undone: false, state: nil).order(id: :desc) }
      scope :undone, -> { where(undone: true, state: nil).order(:id) }

      # @param person_id [String, nil] nil for what was done when nobody was signed in
      scope :of, ->(person_id) { where(person_id: person_id) }

      # @return [Hash] for JSON, without the rows
      def document
        { "id" => id, "action" => action, "kind" => kind, "names" => names, "at" => at.utc.iso8601,
          "revision" => revision, "by" => by, "person" => person_id }
      end
    end
  end
end
