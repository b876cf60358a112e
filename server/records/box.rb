# frozen_string_literal: true

module Server
  module Records
    # A box that the merchant packs into.
    class Box < Base
      says :name, :active, :size, :padding, :outer, :tare, :up_to, :cost
      words :name, most: 60
      unlike_others :name, "box has this name"
      validate :readable_by_the_core

      before_destroy { [Store, Rate].each { |model| model.forget_box(id) } }

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document.reject do |_, value|
          value.nil? || value == ""
        end.merge("id" => id || "new"))
        read = GateMile::Documents.read(GateMile::Box, reader, Store.current.money)
        reader.problems.each do |problem|
          next if problem.pointer == "/name"

          errors.add(:base, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
        normalise(GateMile::Documents.write(read)) if reader.problems.empty?
      end

      def normalise(read) = (self.class.said - %w[name active]).each { |field| self[field] = read[field] }
    end
  end
end
