# frozen_string_literal: true

require "csv"

module Server
  # The way back from a book document to records: fills an empty database. {BookDocument} reads the same book out again.
  module BookRecords
    class << self
      # @param book [Hash] a book document; ids are kept
      # @param opening_cart [Hash, nil] what stands on a bench that has not been used yet
      # @return [void]
      # @raise [GateMile::Invalid] before anything is written
      def write(book, opening_cart: nil)
        book = GateMile::Book.compile(book).dump
        History.unrecorded do
          Records::Store.create!(book["store"].merge("id" => 1, "opening_cart" => opening_cart))
          book["products"].each { |product| Records::Product.create!(product.except("size").merge(product["size"].to_h)) }
          book["zones"].each { |zone| zone(zone) }
          book["methods"].each { |method| Records::ShippingMethod.create!(method) }
          book["rates"].each { |rate| rate(rate) }
        end
      end

      # @param file [String] CSV with the columns sku, name, price, weight, length, width, height, ships; further
      #   columns are left alone
      # @return [Array<Hash>] products as in a book document
      def products(file)
        CSV.read(file, headers: true, encoding: "bom|utf-8").map do |row|
          size = Records::Product::SIDES.to_h { |side| [side, row[side]] }
          { "sku" => row["sku"], "name" => row["name"], "price" => row["price"], "weight" => row["weight"],
            "size" => (size if size.values.all?), "ships" => row["ships"] != "no" }.compact
        end
      end

      private

      def zone(zone)
        Records::Zone.new(zone.except("areas")).tap { |record| record.add(zone["areas"]) }.save!
      end

      def rate(rate)
        Records::Rate.create!(rate.except("zone", "method").merge(zone_id: rate["zone"],
                                                                  shipping_method_id: rate["method"]))
      end
    end
  end
end
