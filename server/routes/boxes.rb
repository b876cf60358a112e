# frozen_string_literal: true

module Server
  module Routes
    # Boxes, and the parcels that a cart makes of them.
    module Boxes
      def self.registered(app)
        app.get "/api/boxes.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "boxes.csv"
          BoxesCsv.write
        end

        app.post "/api/boxes/import" do
          body = body_of("TableImport", limit: Body::OF_TABLES)
          next answer(BoxesCsv.new(body["csv"]).read(store: false)) unless body["store"]

          answer(History.edit("import", "box", {}) { BoxesCsv.new(body["csv"]).read(store: true) })
        end

        app.post "/api/parcels" do
          body = body_of("ParcelsRequest")
          _, book = settings.shelf.current
          answer(ParcelsDocument.of(book, bench_cart(body["cart"], book, under: "/cart"), body["rate"]))
        end

        Plain.order(app, "/api/boxes", Records::Box, "box")
        Plain.routes(app, "/api/boxes", Records::Box, "box")
      end
    end
  end
end
