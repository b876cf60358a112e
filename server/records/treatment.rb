# frozen_string_literal: true

module Server
  module Records
    # How goods leave the ordinary rates.
    class Treatment < Base
      says :name, :active, :zones, :methods, :price, :travel

      has_many :targets, -> { order(:id) }, class_name: "TreatmentTarget", dependent: :destroy, inverse_of: :treatment

      words :name
      validate :readable_by_the_core

      # @return [Hash] as in a book document, with nil for what is not said
      def document
        { "id" => id, **said }
      end

      # Takes what goes out of every treatment that names it. One that was limited to it alone is off from then on.
      # @param list [String] "zones" or "methods"
      # @param gone [String] id
      # @return [Array<String>] names of the treatments that are off now
      def self.forget(list, gone)
        all.filter_map do |treatment|
          was = treatment.active
          treatment.forget(list, gone)
          treatment.save! if treatment.changed?
          treatment.name if was && !treatment.active
        end
      end

      # @param list [String]
      # @param gone [String]
      # @return [void]
      def forget(list, gone)
        value = GateMile::Documents.parse(GateMile::Treatment, document.compact, Store.current.money)
        left = GateMile::Documents.write(value.without(list.delete_suffix("s"), gone))
        %w[zones methods price travel active].each { |field| self[field] = left[field] }
      end

      private

      def readable_by_the_core
        reader = GateMile::Reader.new(document.compact.merge("id" => id || "new"))
        read = GateMile::Documents.read(GateMile::Treatment, reader, Store.current.money)
        reader.problems.each { |problem| tell(problem.pointer, Words.of(problem.code, **problem.numbers)) }
        return if reader.problems.any?

        unknown(read)
        self.price, self.travel = GateMile::Documents.write(read).values_at("price", "travel")
      end

      # Another tab may have removed a zone or a method in the meantime.
      def unknown(read)
        zones = [["/zones", read.zones]]
        methods = [["/methods", read.method_ids], ["/travel/only", read.only], ["/travel/never", read.never],
                   ["/price/by_method", read.price&.by_method&.keys]]
        { Zone => zones, ShippingMethod => methods }.each do |model, places|
          known = model.pluck(:id)
          places.each { |place, ids| tell(place, Words.of(:unknown_id)) if ids && (ids - known).any? }
        end
      end

      def tell(pointer, message)
        errors.add(:base, message, pointer: pointer) unless pointer == "/name"
      end
    end
  end
end
