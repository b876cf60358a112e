# frozen_string_literal: true

module Server
  module Routes
    # Shipping classes and tax classes.
    module Classes
      def self.registered(app)
        app.get("/api/classes") { answer({ classes: Classes.counted }) }

        Plain.order(app, "/api/classes", Records::ShippingClass, "class")

        # Its products go to another class, or to none: `move_to` says where.
        app.delete "/api/classes/:id" do
          names = {}
          History.edit("delete", "class", names) do
            item = found_for_edit(Records::ShippingClass, params["id"], lock_version, :shipping_class)
            heir = params["move_to"].presence && found(Records::ShippingClass, params["move_to"])
            names.merge!({ name: item.name, to: heir&.name }.compact)
            item.heir = heir&.id
            item.destroy!
          end
          done
        end

        Plain.routes(app, "/api/classes", Records::ShippingClass, "class", document: :shipping_class,
                                                                           schema: "ShippingClass")
        Plain.order(app, "/api/tax-classes", Records::TaxClass, "tax_class")
        Plain.routes(app, "/api/tax-classes", Records::TaxClass, "tax_class", schema: "TaxClass")
      end

      # @return [Array<Hash>] how many products and variants each class has, whether by themselves or by their product
      def self.counted
        rows = ActiveRecord::Base.connection.select_rows(<<~SQL)
          SELECT coalesce(products.shipping_class_id, parents.shipping_class_id), products.parent_id IS NOT NULL, count(*)
          FROM products LEFT JOIN products AS parents ON parents.id = products.parent_id GROUP BY 1, 2
        SQL
        count = rows.to_h { |id, variant, number| [[id, variant == 1], number] }
        Records::ShippingClass.order(:position, :id).map do |item|
          { id: item.id, products: count.fetch([item.id, false], 0), variants: count.fetch([item.id, true], 0) }
        end
      end
    end
  end
end
