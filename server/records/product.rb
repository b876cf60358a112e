# frozen_string_literal: true

module Server
  module Records
    # Something the shop sells, or a variant of it. Weights and lengths are kept as they were written, unit and all. A
    # value that can't be taken leaves the column as it was and becomes an error of its field.
    class Product < Base
      SIDES = GateMile::Sides::NAMES

      belongs_to :parent, class_name: "Product", optional: true, inverse_of: :variants
      has_many :variants, -> { order(:position, :id) }, class_name: "Product", foreign_key: :parent_id,
                                                        dependent: :destroy, inverse_of: :parent
      has_many :targets, -> { order(:id) }, class_name: "TreatmentTarget", dependent: :destroy
      belongs_to :shipping_class, optional: true
      belongs_to :tax_class, optional: true

      # Doubtful values are meant.
      attr_accessor :sure

      validate :faultless, :priced, :size_whole, :one_of_its_sku, :variant_of_a_product

      GoodsField::ALL.each do |field|
        define_method("#{field.name}=") { |typed| take(field.name, typed) }
      end

      # @param fields [Hash] a ProductDraft of the contract: `sure` goes before what it is about
      def assign_attributes(fields)
        fields = fields.to_h.stringify_keys
        super(fields.slice("sure", "parent"))
        super(fields.except("sure", "parent"))
      end

      # @param id [String, nil]
      def parent=(id)
        @no_parent = id && !Product.exists?(id: id)
        self.parent_id = id unless @no_parent
      end

      private

      def take(field, typed)
        faults.delete(field)
        GoodsFields.new.read(field, typed, sure: sure || false).each { |column, value| self[column] = value }
      rescue GoodsFields::Fault => e
        faults[field] = e
      end

      def faults = @faults ||= {}

      def faultless
        faults.each do |field, fault|
          errors.add(field.to_sym, fault.message, code: fault.code, suggestion: fault.suggestion)
        end
        %w[sku name].each { |field| errors.add(field, Words.of(:missing)) if self[field].blank? && !faults[field] }
      end

      def priced
        errors.add(:price, Words.of(:missing)) if price_minor.nil? && parent_id.nil? && !faults["price"]
      end

      def size_whole
        given = SIDES.select { |side| self[side] }
        return unless given.size.between?(1, 2)

        missing = (SIDES - given).first
        errors.add(missing, Words.of(:size_in_part)) unless faults.keys.intersect?(SIDES)
      end

      def one_of_its_sku
        return if sku.blank? || !Product.where("lower(sku) = ?", sku.downcase).where.not(id: id).exists?

        errors.add(:sku, Words.of(:taken, what: "product has this SKU"))
      end

      def variant_of_a_product
        return errors.add(:parent, Words.of(:unknown_id)) if @no_parent
        return if parent_id.nil?

        errors.add(:parent, Words.of(:variant_of_variant)) if parent&.parent_id || variants.any?
        said = GoodsField::OF_PRODUCTS.reject { |field| self[field.column] == field.usual }
        said.each { |field| errors.add(field.name, Words.of(:from_its_product)) }
      end

      # A product stands behind all others, a variant behind those of its product.
      def take_place
        return if family.positive?

        self.family = parent ? parent.family : Product.maximum(:family).to_i + 1
        self.position = parent ? Product.where(parent_id: parent_id).maximum(:position).to_i + 1 : 0
      end
    end
  end
end
