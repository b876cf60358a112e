# frozen_string_literal: true

module Server
  module Routes
    # The catalogue.
    module Products
      # A file of the largest size, as a JSON text.
      FILE_LIMIT = (GoodsCsv::LIMIT * 1.25).to_i

      def self.registered(app)
        app.get "/api/products" do
          found = GoodsQuery.new(params)
          page = found.relation.limit(number("limit", 50, 1..500)).offset(number("offset", 0, 0..10_000_000))
          answer({ products: GoodsDocuments.of(page), total: found.count })
        end

        app.get "/api/products/:id/treatments" do
          product = found(Records::Product, params["id"])
          _, book = settings.shelf.current
          answer(Products.treated(book, book.catalogue[product.sku]))
        end

        app.post "/api/products/cells" do
          body = body_of("GoodsCells")
          one = body["rows"].size == 1
          names = one ? {} : { count: body["rows"].size.to_s }
          answer(History.edit(one ? "update" : "bulk", "product", names) do
            cells = GoodsCells.new(body["rows"], sure: body["sure"] || false)
            cells.store.tap { names.merge!(cells.names) if one }
          end)
        end

        app.post "/api/products/bulk" do
          body = body_of("GoodsBulk")
          names = { fields: body["set"].keys.join(",") }
          next Products.previewed(self, body) unless body["store"]

          answer(History.edit("bulk", "product", names) do
            bulk = GoodsBulk.new(body["scope"], body["set"], sure: body["sure"] || false)
            bulk.run(store: true).tap { |done| names[:count] = done[:changed].to_s }
          end)
        end

        Products.csv(app)
        Plain.routes(app, "/api/products", Records::Product, "product")
      end

      def self.csv(app)
        app.get "/api/products.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "products.csv"
          Database.read { GoodsCsv.write }
        end

        app.post("/api/products/csv/head") { answer(GoodsCsv.head(body_of("CsvText")["csv"])) }

        # Told line by line as it goes on: {"done":…,"total":…} and at the end {"result":…} or {"problem":…}.
        app.post "/api/products/import" do
          body = body_of("GoodsImport", limit: FILE_LIMIT)
          content_type "application/x-ndjson"
          headers "cache-control" => "no-store, no-transform"
          effort = Effort.new(env)
          turn = [Asking.now&.id || :nobody, -> { !effort.gone? }]
          ImportLines.of("importing products") do |tell|
            Products.imported(body, settings.shelf, turn) { |done, total| tell.call(done, total) }
          end
        end
      end

      # Works out the preview in a child process, so that it holds nobody up.
      def self.previewed(app, body)
        effort = Effort.new(app.env)
        bulk = GoodsBulk.new(body["scope"], body["set"], sure: body["sure"] || false)
        wanted = -> { !effort.gone? }
        shop = GoodsInShop.new
        done = SideProcess.run(Asking.now&.id || :nobody, wanted: wanted, asked: shop.method(:answer)) do |_, ask|
          bulk.run(store: false, shop: GoodsInShop::Asked.new(ask))
        end
        done ? app.answer(done) : app.status(204)
      end

      def self.imported(body, shelf, (who, wanted), &)
        import = GoodsImport.new(body["csv"], body["mapping"], sure: body["sure"] || false,
                                                               comma: body["comma"] || false)
        SideProcess.in_turn(who, wanted: wanted) do
          body["store"] ? stored(import, shelf, wanted, &) : import.beside(wanted: wanted, &)
        end
      end

      def self.stored(import, shelf, wanted, &)
        LongChange.run("import", "product") do |change|
          # What was edited before is compiled before: while goods are imported nobody reads them.
          shelf.current
          done = import.beside(into: change, wanted: wanted, &)
          raise Problem.new(503, "Nobody waited for the end of this import.") unless done

          count = (done[:created] + done[:changed]).to_s
          shelf.renewed_goods(change.rows) { change.finish({ count: count }) }
          done
        end
      end

      # @param book [GateMile::Book]
      # @param article [GateMile::Article]
      # @return [Hash] Treated of the contract: the treatments that reach it, and for each rate which one sets the price
      #   and which ones bar the way
      def self.treated(book, article)
        placed = book.treatments.on(article, article.shipping_class)
        rows = GateMile::Precedence.of(book, placed)
        { treatments: rows.map(&:dump),
          rates: book.rates_in_use.map do |rate|
            pricing = rows.find { |row| row.wins&.include?(rate.id) }
            barring = placed.select { |item| item.treatment.bars?(rate.zone, rate.method_id) }
            { rate: rate.id, zone: rate.zone, method: rate.method_id, priced_by: pricing&.treatment&.id,
              barred_by: barring.map { |item| item.treatment.id }.uniq }
          end }
      end
    end
  end
end
