# frozen_string_literal: true

module Server
  module Records
    # What offers and rules have in common: they are read by the core, and name zones, methods, classes, groups and
    # coupons that may go.
    module Policy
      # Names of a list of the book, and the records that are on it.
      NAMED = { zones: "Zone", methods: "ShippingMethod", classes: "ShippingClass" }.freeze
      Named = Struct.new(:id)
      private_constant :Named

      def self.included(model)
        model.words :name
        model.validate :readable_by_the_core
        model.extend(Forgetting)
      end

      # Takes what goes out of everything that names it.
      module Forgetting
        # @param kind [String] zone, method, class, group or coupon
        # @param gone [String] id
        # @return [void]
        def forget(kind, gone)
          all.to_a.select do |record|
            record.document.to_json.include?(gone)
          end.each { |record| record.forget(kind, gone) }
        end
      end

      # Takes out what goes; one that does nothing any more goes too.
      # @param kind [String]
      # @param gone [String]
      # @return [void]
      def forget(kind, gone)
        reader = GateMile::Reader.open(document.compact)
        value = read(reader, Store.current)
        raise GateMile::Invalid, reader.problems if reader.problems.any?

        left = value.without(kind, gone) or return destroy!
        normalise(left)
        self.active = left.active
        save! if changed?
      end

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }

      private

      # Another tab may have removed what it names in the meantime.
      def readable_by_the_core
        list = self.class.table_name
        reader = GateMile::Reader.new({ list => [document.compact.merge("id" => id || "new")] })
        read = reader.items(list).map { |item| read(item, Store.current) }
        GateMile::TermsConsistency.new(reader, known(list, read)).check if reader.problems.empty?
        reader.problems.each { |problem| tell(problem, "/#{list}/0") }
        normalise(read.first) if reader.problems.empty?
      end

      def known(list, read)
        ids = NAMED.to_h { |name, model| [name, Records.const_get(model).pluck(:id).map { |id| Named.new(id) }] }
        lists = { groups: CustomerGroup, coupons: Coupon }.transform_values do |model|
          model.pluck(:id).map { |id| Named.new(id) }
        end
        ids.merge(policies: GateMile::Policies.for_check(**lists, list.to_sym => read))
      end

      def tell(problem, above)
        pointer = problem.pointer.delete_prefix(above)
        errors.add(:base, Words.of(problem.code, **problem.numbers), pointer: pointer) unless pointer == "/name"
      end

      def normalise(read)
        fields = GateMile::Documents.write(read).except("id", "name", "active")
        (self.class.said - %w[name active]).each { |field| self[field] = fields[field] }
      end
    end
  end
end
