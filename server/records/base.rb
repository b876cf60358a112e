# frozen_string_literal: true

module Server
  module Records
    # What every record of the setup has: its own id, a place in its list, and its part in the history of changes.
    class Base < ActiveRecord::Base
      self.abstract_class = true

      # Letters that nobody takes for another.
      ALPHABET = [*"a".."z", *"2".."9"].-(%w[l o i]).freeze
      private_constant :ALPHABET

      # @return [String] an id that nobody has
      def self.new_id = Array.new(10) { ALPHABET.sample(random: SecureRandom) }.join

      before_create { self.id ||= Base.new_id }
      before_create :take_place
      # A record may have been changed in memory in the meantime: only the database says what was there.
      before_update(prepend: true) { @row_before = Written.row(self) }
      before_destroy(prepend: true) { @row_before = Written.row(self) }
      after_create { Written.note(self, before: nil, after: Written.row(self)) }
      after_update { Written.note(self, before: @row_before, after: Written.row(self)) }
      after_destroy { Written.note(self, before: @row_before, after: nil) }

      class << self
        # @return [Array<String>] the columns in which a merchant says something: a document, a copy and a book follow
        #   from this list, and nothing else of a row does
        attr_reader :said

        # @param columns [Array<Symbol, String>]
        # @return [void]
        def says(*columns) = @said = columns.map(&:to_s).freeze
      end

      # Columns that are kept for the merchant: where a row stands, and what it was based on.
      KEPT = %w[id position lock_version].freeze

      # @return [Hash] what the row says, by column
      def said = self.class.said.to_h { |column| [column, self[column]] }

      # @param changes [Hash] what the copy says instead
      # @return [Base] a new one, not yet saved, that says the same
      def copied(**changes) = self.class.new(said.merge(changes.transform_keys(&:to_s)))

      # @return [Integer]
      def self.last_position = maximum(:position).to_i

      # Names and codes: trimmed, not empty, not too long, without control characters.
      # @param field [Symbol]
      # @param most [Integer] characters
      # @param required [Boolean]
      def self.words(field, most: GateMile::Reader::NAME_LENGTH, required: true)
        normalizes field, with: ->(text) { text.strip.presence }
        validates field, presence: { message: Words.of(:missing) } if required
        validates field, length: { maximum: most, message: lambda { |_, data|
          Words.of(:too_long, most: most, length: data[:value].length)
        } },
                         format: { without: /[[:cntrl:]]/, message: Words.of(:control_characters) }, allow_nil: true
      end

      # @param field [Symbol]
      # @param what [String] for the message, e.g. "zone has this name"
      def self.unlike_others(field, what)
        validates field, uniqueness: { case_sensitive: false, message: Words.of(:taken, what: what) }, allow_blank: true
      end

      private

      # At the end of its list.
      def take_place
        self.position = self.class.last_position + 1 if has_attribute?(:position) && position.to_i.zero?
      end

      # Reads a text by one of the core's parsers and notes what is wrong with it at its field.
      def check(field)
        yield
      rescue GateMile::Malformed => e
        errors.add(field, Words.of(e.code, **e.numbers))
      end
    end
  end
end
