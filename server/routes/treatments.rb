# frozen_string_literal: true

module Server
  module Routes
    # Treatments, and what they sit on.
    module Treatments
      def self.registered(app)
        app.get("/api/treatments") { answer({ treatments: TreatmentReaches.list }) }

        app.get "/api/treatments/:id/targets" do
          targets = found(Records::Treatment, params["id"]).targets.where.not(product_id: nil)
          goods = Records::Product.where(id: targets.select(:product_id)).order(:family, :position)
          answer({ products: goods.limit(60).map { |item| item.slice(:id, :sku, :name) }, total: goods.count })
        end

        app.post "/api/treatments" do
          body = body_of("TreatmentDraft")
          answer(History.edit("create", "treatment", { name: body["name"] }) do
            made = save(Records::Treatment.new(body.except("on")))
            Treatments.put_on(made, body["on"] || {})
            Documents.treatment(made)
          end, 201)
        end

        app.post "/api/treatments/:id/targets" do
          body = body_of("TargetsPatch")
          names = { fields: "targets" }
          answer(History.edit("update", "treatment", names) do
            treatment = found_for_edit(Records::Treatment, params["id"], body["lock_version"], :treatment)
            names[:name] = treatment.name
            Treatments.take_off(treatment, body["remove"] || {})
            Treatments.put_on(treatment, body["add"] || {})
            Documents.treatment(treatment.reload)
          end)
        end

        app.post "/api/comparison" do
          body = body_of("ComparisonRequest")
          _, book = settings.shelf.current
          answer(Treatments.comparison(book, body))
        end

        app.get "/api/treatments.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "treatments.csv"
          TreatmentsCsv.write
        end

        app.post "/api/treatments/import" do
          body = body_of("TableImport", limit: Body::OF_TABLES)
          next answer(TreatmentsCsv.new(body["csv"]).read(store: false)) unless body["store"]

          answer(History.edit("import", "treatment", {}) { TreatmentsCsv.new(body["csv"]).read(store: true) })
        end

        Plain.order(app, "/api/treatments", Records::Treatment, "treatment")
        Plain.routes(app, "/api/treatments", Records::Treatment, "treatment")
      end

      # @param treatment [Records::Treatment]
      # @param goods [Hash] products and classes, ids each
      # @raise [Problem] 422 where one of them is not there
      def self.put_on(treatment, goods)
        columns(goods).each do |column, (model, ids)|
          raise unknown(column) if model.where(id: ids).count != ids.size

          there = treatment.targets.where(column => ids).pluck(column)
          History.write("treatment_targets", TreatmentTargets.come(treatment.id, { column => ids - there }))
        end
      end

      # @param treatment [Records::Treatment]
      # @param goods [Hash]
      def self.take_off(treatment, goods)
        columns(goods).each do |column, (_, ids)|
          History.write("treatment_targets",
                        TreatmentTargets.gone(TreatmentTargets.rows(treatment.targets.where(column => ids))))
        end
      end

      def self.columns(goods)
        { product_id: [Records::Product, goods.fetch("products", []).uniq],
          shipping_class_id: [Records::ShippingClass, goods.fetch("classes", []).uniq] }
      end

      def self.unknown(column)
        pointer = column == :product_id ? "/on/products" : "/on/classes"
        Problem.at(pointer, :unknown_id)
      end
      private_class_method :columns, :unknown

      # What the ordinary rates of a zone take for so many of one product alone.
      # @return [Hash] Comparison of the contract
      def self.comparison(book, body)
        zone = book.zone(body["zone"]) or raise Problem.new(404, "The zone is not there any more.")
        article = example(book, body)
        return { sku: nil, name: nil, quantities: [] } if article.nil?

        found = GateMile::Comparison.of(book, article.sku, zone, body["quantities"])
        { sku: article.sku, name: article.name,
          quantities: found.map do |quantity, prices|
            { quantity: quantity, rates: prices.transform_values { |price| price&.to_s } }
          end }
      end

      # The named product, or any that the treatment reaches.
      def self.example(book, body)
        return book.catalogue[body["sku"]] if body["sku"]

        found = GoodsQuery.new({ "treatment" => body["treatment"] }).relation.first
        found && book.catalogue[found.sku]
      end
      private_class_method :example
    end
  end
end
