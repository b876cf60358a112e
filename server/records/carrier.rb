# frozen_string_literal: true

module Server
  module Records
    # A carrier, how it is reached, and the merchant's account with it. Its secret is encrypted, and never shown again.
    class Carrier < Base
      encrypts :secret
      self.filter_attributes += [:secret]

      says :name, :active, :services, :address, :account, :secret

      ADDRESS = %r{\Ahttps?://[^\s/?#]+(/[^\s?#]*)?\z}
      # What a header of HTTP can carry.
      HEADER = /\A[\x21-\x7e]([\x20-\x7e]*[\x21-\x7e])?\z/
      private_constant :ADDRESS, :HEADER

      words :name, most: 60
      words :account, most: 120, required: false
      unlike_others :name, "carrier has this name"
      normalizes :address, with: ->(text) { text.strip.delete_suffix("/").presence }
      validates :address, format: { with: ADDRESS, message: Words.of(:not_an_address) }, length: { maximum: 300 },
                          allow_nil: true
      validate { errors.add(:address, Words.of(:not_an_address)) if address && errors[:address].empty? && !reachable? }
      normalizes :secret, with: ->(text) { text.strip.presence }
      %i[account secret].each do |field|
        validates field, format: { with: HEADER, message: Words.of(:no_header_signs) }, length: { maximum: 500 },
                         allow_nil: true
      end
      validate :readable_by_the_core

      # What was typed for one address is never sent to another.
      before_update { self.secret = nil if address_changed? && !secret_changed? && elsewhere? }
      before_destroy { Rate.forget_carrier(id) }

      # @param address [String]
      # @return [Array] scheme, host and port
      def self.origin(address)
        uri = URI.parse(address)
        [uri.scheme.downcase, uri.host.downcase, uri.port]
      end

      # @return [Boolean] whether there is one that the keys can't read any more
      def secret_lost? = secret.nil? && !secret_before_type_cast.nil? && persisted?

      # @return [Hash] as in a book document
      def document = { "id" => id, "name" => name, "active" => active, "services" => services }

      private

      def reachable?
        uri = URI.parse(address)
        !uri.host.to_s.empty? && uri.userinfo.nil? && uri.port.between?(1, 65_535)
      rescue URI::Error
        false
      end

      def elsewhere?
        address.nil? || address_was.nil? || Carrier.origin(address) != Carrier.origin(address_was)
      end

      def readable_by_the_core
        reader = GateMile::Reader.new(document.merge("id" => id || "new"))
        GateMile::Documents.read(GateMile::Carrier, reader)
        reader.problems.each do |problem|
          next if problem.pointer == "/name"

          errors.add(:services, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
      end
    end
  end
end
