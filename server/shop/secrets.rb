# frozen_string_literal: true

module Server
  # What is kept encrypted: secrets of carriers, of webhooks, and those of people's one-time codes.
  module Secrets
    # @return [void] writes every secret with the newest key, where there are older ones
    def self.renew
      return unless Keys.several?

      secrets = { Records::Carrier => :secret, Records::Webhook => :secret, Records::Person => :code_secret }
      secrets.each do |all, field|
        all.find_each { |one| one.encrypt unless one[field].nil? }
      end
    end
  end
end
