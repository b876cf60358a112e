# frozen_string_literal: true

module Server
  module Records
    # A box that the merchant packs into.
    class Box < Base
      FIELDS = %w[id name active size padding outer tare up_to cost].freeze

      words :name, most: 60
      unlike_others :name, "box has this name"
      validate :readable_by_the_core

      # @return [Hash] as in a book document
      def document
        FIELDS.to_h { |field| [field, self[field].presence.then { |said| said.nil? ? self[field] : said }] }
      end

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document.reject do |_, value|
          value.nil? || value == ""
        end.merge("id" => id || "new"))
        read = GateMile::Box.read(reader, Store.current.money)
        reader.finish
        reader.problems.each do |problem|
          next if problem.pointer == "/name"

          errors.add(:base, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
        normalise(read.dump) if reader.problems.empty?
      end

      def normalise(read) = (FIELDS - %w[id name active]).each { |field| self[field] = read[field] }
    end
  end
end
