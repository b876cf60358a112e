# frozen_string_literal: true

module Server
  module Records
    # Somebody who may use the workbench. The name is shown to the others; the email is what they sign in with, and
    # nothing is ever sent there.
    class Person < ActiveRecord::Base
      include Edition

      EDITED = %w[name email role].freeze
      # Each may do what the one before may, and more.
      ROLES = Asking::ROLES
      EMAIL = /\A[^\s@]+@[^\s@]+\z/
      private_constant :EMAIL

      has_secure_password validations: false
      encrypts :code_secret
      self.filter_attributes += %i[code_secret password_digest]
      has_many :sessions, inverse_of: :person, dependent: :delete_all
      has_many :recovery_codes, inverse_of: :person, dependent: :delete_all
      before_create { self.id ||= Base.new_id }

      normalizes :name, with: ->(text) { text.strip.presence }
      normalizes :email, with: ->(text) { text.strip.presence }
      %i[name email].each do |field|
        validates field, presence: { message: Words.of(:missing) },
                         length: { maximum: 120, message: lambda { |_, data|
                           Words.of(:too_long, most: 120, length: data[:value].length)
                         } },
                         format: { without: /[[:cntrl:]]/, message: Words.of(:control_characters) }
      end
      validates :email, format: { with: EMAIL, message: Words.of(:not_an_email) }, if: -> { email }
      validates :email, uniqueness: { case_sensitive: false, message: Words.of(:taken, what: "account has this email") }
      validates :role, inclusion: { in: ROLES }

      scope :owners, -> { where(role: "owner") }

      # @param role [String] of {ROLES}
      # @return [Boolean] whether this is one who may do at least what that role may
      def at_least?(role) = ROLES.index(self.role) >= ROLES.index(role)

      # @return [Boolean] whether this is the only one who may let others in
      def last_owner? = role == "owner" && Person.owners.where.not(id: id).none?

      # @return [Hash] Person of the contract
      def document
        { id: id, edition: edition, name: name, email: email, role: role, codes: codes, made_at: made_at.utc.iso8601 }
      end
    end
  end
end
