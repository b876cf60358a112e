# frozen_string_literal: true

module Server
  module Routes
    # Where addresses land, what is covered and what the audit finds.
    module Places
      ADDRESSES = %w[country postcode].freeze

      def self.registered(app)
        app.get("/api/geography") { answer(Geography.all) }

        app.post "/api/clauses" do
          body = body_of("ClausesText", limit: Body::OF_TABLES)
          country = Places.country(body["country"])
          found = GateMile::ClauseList.parse(body["text"], country)
          faults = found.faults.map do |fault|
            fault.slice(:position, :line, :text).merge(detail: Words.of(fault[:code], **fault.slice(:most)))
          end
          doubts = found.doubts.map { |one| Places.doubt(one, country) }
          answer({ clauses: found.clauses.map(&:text), duplicates: found.duplicates, faults: faults, doubts: doubts })
        end

        app.post "/api/landing" do
          reader = GateMile::Reader.new(body_of("Address"))
          address = GateMile::Documents.read(GateMile::Address, reader)
          raise Problem.of_invalid(GateMile::Invalid.new(reader.problems)) if reader.problems.any?

          answer(GateMile::Ladder.new(settings.shelf.current.last.zones, address).dump)
        end

        app.post "/api/landings" do
          table = Table.new(body_of("CsvText", limit: Body::OF_TABLES)["csv"], ADDRESSES,
                            optional: %w[region line1 line2 name])
          answer(Places.landings(settings.shelf.current.last.zones, table))
        end

        app.get("/api/findings") do
          found, progress = settings.audits.findings
          asleep = Records::SleepingFinding.ids.to_set
          answer({ findings: found.map { |one| { **one.dump, part: one.part.name, asleep: asleep.include?(one.key) } },
                   progress: progress&.to_h })
        end

        app.put "/api/findings/asleep" do
          body = body_of("Asleep")
          History.edit("update", "finding", { fields: "active", to: (!body["asleep"]).to_s }) do
            Records::SleepingFinding.put(body["keys"].uniq, body["asleep"])
          end
          done
        end

        app.get("/api/coverage") { answer(settings.shelf.derived(:coverage) { |book| Places.coverage(book.zones) }) }

        # Public and read-only. The page of every shop may ask.
        app.get "/api/served" do
          headers "access-control-allow-origin" => "*"
          answer(settings.shelf.derived(:served) { |book| Served.of(book.zones) })
        end

        app.get "/api/zones.csv" do
          content_type "text/csv", charset: "utf-8"
          taken_out "zones.csv"
          ZonesCsv.write
        end

        app.post "/api/zones/import" do
          body = body_of("TableImport", limit: Body::OF_TABLES)
          next answer(ZonesCsv.read(body["csv"], store: false)) unless body["store"]

          answer(History.edit("update", "zone", { name: "several", fields: "areas" }) do
            ZonesCsv.read(body["csv"], store: true)
          end)
        end
      end

      class << self
        # @return [Hash] a clause that matches nothing, why, and what was probably meant: another clause, or a country
        def doubt(one, country)
          doubt = one[:doubt]
          name = doubt.country && Choices.country_name(doubt.country)
          { **one.slice(:position, :line, :text), detail: Words.of(doubt.code, country: name || country),
                                                  meant: doubt.meant, country: doubt.country }
        end

        # @raise [Problem] 422 at /country
        def country(text)
          GateMile::Countries.parse(text)
        rescue GateMile::Malformed => e
          raise Problem.at("/country", e.code)
        end

        def landings(zones, table)
          found = { total: 0, zones: Hash.new(0), nowhere: [], undetermined: [], faults: [] }
          table.each_row do |row, line|
            found[:total] += 1
            sort(found, zones, row, line)
          end
          found
        end

        def coverage(zones)
          world = zones.find { |zone| zone.active && zone.areas.any? { |area| area.kind == :world } }
          countries = zones.countries.to_h do |country|
            survey = GateMile::Survey.new(zones.coverage(country))
            [country, { zones: winners(survey), served: survey.served }]
          end
          { world: world&.id, countries: countries }
        end

        # The zones that some sample place of the country lands in, the most frequent first.
        def winners(survey)
          found = survey.spots.filter_map { |spot| spot.holding.first&.zone&.id }
          found.tally.sort_by { |_, count| -count }.map(&:first)
        end

        private

        def sort(found, zones, row, line)
          fields = row.to_h.slice("country", "region", "postcode").compact
          reader = GateMile::Reader.new(fields)
          address = GateMile::Documents.read(GateMile::Address, reader)
          if reader.problems.any?
            problem = reader.problems.first
            detail = "#{problem.pointer.delete_prefix("/")}: #{Words.of(problem.code, **problem.numbers)}"
            return found[:faults] << { line: line, detail: detail }
          end
          landing = zones.land(address)
          return found[:zones][landing.zone.id] += 1 if landing.zone

          found[landing.status == :none ? :nowhere : :undetermined] << { line: line, address: fields.values.join(" ") }
        end
      end
    end
  end
end
