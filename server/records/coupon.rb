# frozen_string_literal: true

module Server
  module Records
    # A code that a shopper types.
    class Coupon < Base
      says :code, :note, :active, :starts, :ends

      words :code, most: 60
      words :note, required: false
      unlike_others :code, "coupon has this code, or one that differs only in its capitals"
      validate :readable_by_the_core

      before_destroy { [Offer, Rule].each { |model| model.forget("coupon", id) } }

      # @return [String] for the history
      def name = code

      # @return [Hash] as in a book document
      def document
        { "id" => id, **said, "starts" => starts.presence, "ends" => ends.presence }
      end

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document.compact.merge("id" => id || "new"))
        GateMile::Documents.read(GateMile::Coupon, reader, nil, Store.current.time_zone)
        reader.problems.each do |problem|
          field = problem.pointer.delete_prefix("/")
          errors.add(field, Words.of(problem.code, **problem.numbers)) if %w[starts ends].include?(field)
        end
      end
    end
  end
end
