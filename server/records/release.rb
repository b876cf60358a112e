# frozen_string_literal: true

require "zlib"

module Server
  module Records
    # A frozen copy of the setup under a number, as checkouts use it. Nothing of it ever changes.
    class Release < ActiveRecord::Base
      has_many :publications, inverse_of: :release, dependent: nil

      before_update { throw :abort }
      before_destroy { throw :abort }

      # @param document [Hash] a book
      # @param fields [Hash]
      # @return [Release] not yet saved
      def self.of(document, **fields)
        text = GateMile::Canonical.json(document)
        new(book: Zlib.deflate(text), digest: Digest::SHA256.hexdigest(text), made_at: Time.now, **fields)
      end

      # All but the book.
      scope :listed, -> { select(column_names - ["book"]).order(id: :desc) }

      # @return [String] canonical JSON
      # @raise [RuntimeError] where it is not what it was when it was made
      def text
        found = Zlib.inflate(book).force_encoding(Encoding::UTF_8)
        raise "release #{id} is damaged" unless Digest::SHA256.hexdigest(found) == digest

        found
      end
    end
  end
end
