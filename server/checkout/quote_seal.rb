# frozen_string_literal: true

require "active_support/message_encryptor"
require "zlib"

module Server
  # Quote ids: each holds, sealed, all that the quote was made of, so that an order can be told from it what was
  # promised by whichever process made it, and nothing has to be kept of quotes that nobody orders. Who holds one can
  # neither read nor change it.
  class QuoteSeal
    # What an id begins with; whoever reads it elsewhere knows what it is.
    START = "gmq_"
    # Bytes from which on it pays to deflate.
    LONG = 600
    private_constant :START, :LONG

    # What a quote was made of. family: of keys; release: its number; at, holds_until: {Time}s in whole seconds;
    # cart: its document, with how often offers had been used; recorded: what carriers said, or nil; prices: by code of
    # a method, as amounts.
    Content = Struct.new(:family, :release, :at, :holds_until, :cart, :recorded, :prices)

    # @param id [String]
    # @return [String] what tells it from others, and nothing of what is in it
    def self.mark(id) = Digest::SHA256.hexdigest(id)

    # @param keys [Array<String>, String] 32 characters each; the last one seals, all of them open
    def initialize(keys)
      *old, key = Array(keys)
      how = { cipher: "aes-256-gcm", serializer: ActiveSupport::MessageEncryptor::NullSerializer, url_safe: true }
      @box = ActiveSupport::MessageEncryptor.new(key, **how)
      old.each { |one| @box.rotate(one, **how) }
    end

    # @param content [Content]
    # @return [String] of letters, figures, - and _
    def seal(content)
      text = JSON.generate([content.family, content.release, content.at.to_i, content.holds_until.to_i, content.cart,
                            content.recorded, content.prices])
      START + @box.encrypt_and_sign(text.bytesize < LONG ? "=#{text}" : "~#{Zlib.deflate(text)}")
    end

    # @param id [String]
    # @return [Content, nil] nil for what was never sealed here
    def open(id)
      return unless id.start_with?(START)

      plain = @box.decrypt_and_verify(id.delete_prefix(START))
      text = plain.start_with?("=") ? plain[1..] : Zlib.inflate(plain.byteslice(1..))
      family, release, at, until_, cart, recorded, prices = JSON.parse(text)
      Content.new(family, release, Time.at(at).utc, Time.at(until_).utc, cart, recorded, prices)
    rescue ActiveSupport::MessageEncryptor::InvalidMessage, ArgumentError
      nil
    end
  end
end
