# frozen_string_literal: true

module Server
  module Records
    # Something that was done and is no edit of the setup: a sign-in, a key, a release, an export.
    class AuditEntry < ActiveRecord::Base
      # @return [Hash] AuditEntry of the contract
      def document = { id: id, at: at.utc.iso8601, what: what, by: by, about: about, source: source }
    end
  end
end
