# frozen_string_literal: true

module Server
  module Records
    # A link that was shown once: whoever has it makes an account with that role or, where it names a person, chooses a
    # new password. Only a digest of it is kept.
    class Invitation < ActiveRecord::Base
      belongs_to :person, optional: true
      before_create { self.id ||= Base.new_id }

      scope :open, ->(now = Time.now) { where("ends_at > ?", now) }

      # @return [Hash] Invitation of the contract
      def document
        { id: id, role: role, person: person_id, by: by, made_at: made_at.utc.iso8601, ends_at: ends_at.utc.iso8601 }
      end
    end
  end
end
