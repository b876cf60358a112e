# frozen_string_literal: true

module Server
  module Records
    # Something the shop sells. Weights and lengths are kept as they were written, unit and all.
    class Product < Base
      SIDES = %w[length width height].freeze

      words :sku, most: 60
      words :name
      unlike_others :sku, "product has this SKU"
      validate :price_readable, :weight_readable, :size_readable

      # @param query [String] part of the name or of the SKU; every word must occur
      # @return [ActiveRecord::Relation]
      def self.search(query)
        query.to_s.split.first(8).inject(order(:position, :id)) do |found, word|
          found.where("name LIKE :word ESCAPE '\\' OR sku LIKE :word ESCAPE '\\'", word: "%#{sanitize_sql_like(word)}%")
        end
      end

      # @param text [String, nil] a decimal in major units
      def price=(text)
        @price = text
        self.price_minor = GateMile::Money.parse(text, Store.current.money).minor
      rescue GateMile::Malformed => e
        @price_problem = e
      end

      # @param currency [GateMile::Currency]
      # @return [Hash] as in a book document
      def document(currency)
        size = SIDES.map { |side| self[side] }
        { "sku" => sku, "name" => name, "price" => GateMile::Money.new(price_minor, currency).to_s,
          "weight" => weight, "size" => (SIDES.zip(size).to_h if size.all?), "ships" => ships }
      end

      private

      def price_readable
        return errors.add(:price, Words.of(@price_problem.code, **@price_problem.numbers)) if @price_problem
        return errors.add(:price, Words.of(:missing)) if price_minor.nil?

        errors.add(:price, Words.of(:negative)) if price_minor.negative?
      end

      def weight_readable
        self.weight = weight.presence
        check(:weight) { self.weight = GateMile::Weight.parse(weight, unit: Store.current.weight_unit).to_s } if weight
      end

      def size_readable
        SIDES.each do |side|
          self[side] = self[side].presence
          next unless self[side]

          check(side) do
            self[side] = GateMile::Length.parse(self[side], unit: Store.current.length_unit).to_s
          end
        end
        given = SIDES.count { |side| self[side] }
        errors.add(SIDES.find { |side| self[side].nil? }, Words.of(:size_in_part)) if given.between?(1, 2)
      end
    end
  end
end
