# frozen_string_literal: true

module Server
  module Records
    # Stands for a one-time code where the telephone is not at hand; used once. Only a digest of it is kept.
    class RecoveryCode < ActiveRecord::Base
      belongs_to :person, inverse_of: :recovery_codes
    end
  end
end
