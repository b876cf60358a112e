# frozen_string_literal: true

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
          store(book["store"], opening_cart)
          book["classes"].each { |item| Records::ShippingClass.create!(item.except("treatments")) }
          book["zones"].each { |zone| zone(zone) }
          book.fetch("carriers", []).each { |carrier| Records::Carrier.create!(carrier) }
          book["methods"].each { |method| Records::ShippingMethod.create!(method) }
          book["rates"].each { |rate| rate(rate) }
          BookDocument::POLICIES.each { |list, model| book.fetch(list, []).each { |item| model.call.create!(item) } }
          goods(book)
          book.fetch("proofs", []).each { |proof| Records::Proof.create!(proof) }
        end
      end

      private

      def store(store, opening_cart)
        own = store.except("tax_classes", "boxes", "holidays", "parcels")
        made = Records::Store.create!(own.merge("id" => 1, "opening_cart" => opening_cart))
        store.fetch("tax_classes", []).each { |item| Records::TaxClass.create!(item) }
        store.fetch("boxes", []).each { |item| Records::Box.create!(item) }
        # The policy may name the boxes; the book is known to be sound, and this is still the first version of the row.
        made.update_columns(parcels: store["parcels"])
      end

      def zone(zone)
        Records::Zone.new(zone.except("areas")).tap { |record| record.add(zone["areas"]) }.save!
      end

      def rate(rate)
        Records::Rate.create!(rate.except("zone", "method").merge(zone_id: rate["zone"],
                                                                  shipping_method_id: rate["method"]))
      end

      def goods(book)
        book["treatments"].each { |treatment| Records::Treatment.create!(treatment) }
        book["classes"].each { |item| put_on(Records::ShippingClass.find(item["id"]), :shipping_class, item) }
        book["products"].each do |product|
          record = product(product.except("variants"))
          product.fetch("variants", []).each { |variant| product(variant.merge("parent" => record.id)) }
        end
      end

      def product(fields)
        own = fields.except("size", "treatments").merge(fields["size"].to_h, "sure" => true)
        Records::Product.create!(own).tap { |record| put_on(record, :product, fields) }
      end

      def put_on(record, what, fields)
        fields.fetch("treatments", []).each do |id|
          Records::TreatmentTarget.create!(treatment_id: id, what => record)
        end
      end
    end
  end
end
