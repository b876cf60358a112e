# frozen_string_literal: true

module Server
  module Routes
    # Rates: a method in a zone, with its plan.
    module Rates
      def self.registered(app)
        app.post "/api/rates" do
          body = body_of("RateDraft")
          names = {}
          answer(History.edit("create", "rate", names) do
            Documents.rate(Rates.create(self, body, names))
          end, 201)
        end

        app.get "/api/class-prices" do
          _, book = settings.shelf.current
          answer(Rates.class_prices(GateMile::ClassTable.new(book)))
        end

        app.post "/api/from-to" do
          body = body_of("FromTo")
          answer(Rates.from_to(body, settings.shelf.current.last.store))
        end

        app.get "/api/rates.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "rates.csv"
          RatesCsv.write(params["rate"])
        end

        app.post "/api/rates/import" do
          body = body_of("TableImport", limit: Body::OF_TABLES)
          next answer(RatesCsv::Reading.new(body["csv"]).read(store: false)) unless body["store"]

          answer(History.edit("import", "rate", {}) { RatesCsv::Reading.new(body["csv"]).read(store: true) })
        end

        app.post "/api/rates/change" do
          body = body_of("RatesChange")
          rates = Records::Rate.where(id: body["rates"]).order(:position, :id).to_a
          names = { fields: "plan" }
          answer(History.edit("bulk", "rate", names) do
            done = RateChanges.change(rates, body["percent"], body["amount"], store: body["store"])
            done.tap { names[:count] = done[:rates].size.to_s }
          end)
        end

        app.post "/api/rates/:id/copy" do
          rate = found(Records::Rate, params["id"])
          zones = body_of("Order")["ids"].uniq.map { |id| found(Records::Zone, id) }
          History.edit("bulk", "rate", { count: zones.size.to_s, fields: "copy", **Rates.names(rate) }) do
            RateChanges.copy(rate, zones)
          end
          done
        end

        app.patch "/api/rates/:id" do
          body = body_of("RatePatch")
          names = {}
          answer(History.edit("update", "rate", names) do
            rate = update(Records::Rate, :rate, body, names)
            names.merge!(Rates.names(rate))
            Documents.rate(rate)
          end)
        end

        app.delete "/api/rates/:id" do
          names = {}
          History.edit("delete", "rate", names) do
            rate = remove(Records::Rate, :rate, names)
            names.merge!(Rates.names(rate))
          end
          done
        end
      end

      # Makes the rate and, where asked for, its method. A zone that was off because it had no rate comes on.
      def self.create(app, body, names)
        zone = Records::Zone.find_by(id: body["zone"])
        fields = body.slice("name", "active", "plan")
        rate = Records::Rate.new(fields.merge("zone" => zone, "shipping_method" => method_for(app, body)))
        app.save(rate)
        first = !zone.active && zone.rates.one?
        zone.update!(active: true) if first
        names.merge!(names(rate), first ? { zone_on: zone.name } : {})
        rate
      end

      # @return [Hash] ClassPrices of the contract
      def self.class_prices(table)
        { units: GateMile::ClassTable::UNITS,
          examples: table.examples.map { |group, article| { class: group, name: article.name } },
          rates: table.rows.map do |row|
            prices = row.prices.each_value.map do |list|
              list.map do |found|
                found.is_a?(Symbol) ? { price: nil, cause: found } : { price: found.to_s, cause: nil }
              end
            end
            { rate: row.rate, prices: prices }
          end }
      end

      # @return [Hash] FromToRead of the contract
      def self.from_to(body, store)
        unit = GateMile::Gauge.unit(body["measure"], store)
        read = GateMile::FromTo.new(body["rows"], body["measure"], body["edges"], store.currency,
                                    choices: body.fetch("choices", {}), unit: unit)
        problems = read.problems.map do |problem|
          _, _, row, field = problem.pointer.split("/")
          { row: row.to_i, field: field, detail: Words.of(problem.code, **problem.numbers) }
        end
        { steps: read.steps, issues: read.issues.map(&:to_h), problems: problems }
      end

      # @param rate [Records::Rate]
      # @return [Hash] what names it to the merchant
      def self.names(rate) = { name: rate.name || rate.shipping_method.name, zone: rate.zone.name }

      def self.method_for(app, body)
        return Records::ShippingMethod.find_by(id: body["method"]) unless body["new_method"]

        method = Records::ShippingMethod.new(body["new_method"])
        app.save(method)
      rescue Problem => e
        raise e.under("/new_method")
      end
      private_class_method :method_for
    end
  end
end
