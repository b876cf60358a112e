# frozen_string_literal: true

module Server
  # The HTTP application. Each resource has its routes in a file of its own under routes/.
  class App < Sinatra::Base
    # Lines that the bench can hold: as many as are quoted everywhere while somebody types.
    BENCH_LINES = 100

    set :show_exceptions, false
    set :raise_errors, false
    set :dump_errors, false
    set :static, false
    set :protection, false
    set :host_authorization, { permitted_hosts: [] }
    set :shelf, BookShelf.new
    set :suite, ProofSuite.new(shelf)
    set :audits, AuditDesk.new(shelf)
    set :releases, ReleaseShelf.new
    set :publishing, Publishing.new(shelf: shelf, suite: suite, releases: releases)
    set :comparisons, ComparisonDesk.new(shelf: shelf, releases: releases)
    set :checkout, Checkout.new(releases, trials: Trials.new(shelf, releases))
    set :duties, Duties.new(releases: releases, suite: suite, asked: checkout.asked, keys: checkout.keys)
    set :strict_paths, true

    register Routes::Pages
    register Routes::Setup
    register Routes::Zones
    register Routes::Places
    register Routes::Methods
    register Routes::Rates
    register Routes::Products
    register Routes::Classes
    register Routes::Treatments
    register Routes::Policies
    register Routes::Shopper
    register Routes::Boxes
    register Routes::CarrierList
    register Routes::Proofs
    register Routes::Changes
    register Routes::Quotes
    register Routes::Several
    register Routes::Releases
    register Routes::Door
    register Routes::Webhooks
    register Routes::Backups
    register Routes::SigningIn
    register Routes::Myself
    register Routes::People

    after { ActiveRecord::Base.connection_handler.clear_active_connections! }

    helpers do
      # @param schema [String, nil] the contract's schema for the body
      # @param limit [Integer] bytes
      # @return [Hash] the parsed JSON body
      # @raise [Problem] 400, 413, 415, 422
      def body_of(schema = nil, limit: Body::LIMIT)
        parsed = Body.of(env, limit)
        Contract.check(schema, parsed) if schema
        parsed
      end

      # @param value [Object]
      # @return [String] JSON; sets status and type
      def answer(value, status = 200)
        self.status(status)
        content_type :json
        headers "cache-control" => "no-store"
        JSON.generate(value)
      end

      # @param model [Class]
      # @param id [String]
      # @return [ActiveRecord::Base]
      # @raise [Problem] 404
      def found(model, id)
        model.find_by(id: id) or raise Problem.new(404, "It is not there any more. Somebody may have removed it.")
      end

      # Finds a record and checks that the edit was based on how it stands now.
      # @raise [Problem] 404, 409 (current: how it stands now)
      def found_for_edit(model, id, version, document)
        record = found(model, id)
        return record if record.lock_version == version

        raise Problem.new(409, "This was changed elsewhere since it was shown here.",
                          current: Documents.public_send(document, record))
      end

      # The same for things outside the setup: keys, webhooks, people.
      # @raise [Problem] 404, 409 (current: how it stands now)
      def found_as_shown(model, id, edition)
        record = found(model, id)
        return record if record.edition == edition

        raise Problem.new(409, "This was changed elsewhere since it was shown here.", current: record.document)
      end

      # @return [Integer] of a deletion
      def lock_version
        Integer(params["lock_version"], 10, exception: false) or
          raise Problem.new(422, "Say which version is meant.", errors: [
                              { pointer: "/lock_version", code: "missing", detail: Words.of(:missing) }
                            ])
      end

      # Sends what follows as a file, and notes that it was taken out.
      # @param name [String] of the file
      # @return [void]
      def taken_out(name)
        attachment name
        AuditLog.add_beside(:exported, about: name)
      end

      def save(record)
        record.save or raise Problem.of_record(record)
        record
      end

      # @raise [Problem] 409 where the list was changed in the meantime
      def put_in_order(records, ids)
        unless records.map(&:id).sort == ids.sort
          raise Problem.new(409, "The list was changed elsewhere. Look at it again and move once more.")
        end

        ids.each_with_index { |id, index| records.find { |record| record.id == id }.update!(position: index + 1) }
      end

      # @param names [Hash] filled with what names the change
      # @return [ActiveRecord::Base] saved
      def update(model, document, body, names)
        record = found_for_edit(model, params["id"], body.delete("lock_version"), document)
        names[:name] = record.name
        record.assign_attributes(body)
        save(record)
        names.merge!(Naming.of_update(record))
        record
      end

      # @param names [Hash] filled with what names the change
      # @return [ActiveRecord::Base] removed
      def remove(model, document, names)
        record = found_for_edit(model, params["id"], lock_version, document)
        names[:name] = record.name
        record.destroy!
      end

      # @param hash [Object] a cart document
      # @return [GateMile::Cart]
      # @raise [Problem] 422
      def cart_of(hash, book, under: "")
        GateMile::Cart.parse(hash, book.currency)
      rescue GateMile::Invalid => e
        raise Problem.of_invalid(e, under: under)
      end

      # @param hash [Object] a cart document of the bench, which holds fewer lines than a checkout's
      # @return [GateMile::Cart]
      # @raise [Problem] 422
      def bench_cart(hash, book, under: "")
        cart = cart_of(hash, book, under: under)
        return cart if cart.lines.size <= BENCH_LINES

        raise Problem.at("#{under}/lines", :too_many, most: BENCH_LINES)
      end

      # @return [Integer] a number of the query
      def number(name, default, range)
        text = params[name] or return default
        value = Integer(text, 10, exception: false)
        return value if value && range.cover?(value)

        raise Problem.at("/#{name}", :out_of_range, least: range.min, most: range.max)
      end

      def done
        status 204
        ""
      end
    end

    before do
      next if %w[GET HEAD].include?(request.request_method) || !request.path.start_with?("/api/")
      next if Records::Store.revision.positive? || %w[/api/store /api/setup/import].include?(request.path)

      raise Problem.new(404, "There is no shop yet. Open one first.")
    end

    # Which change an edit has made: with it, that change and no other can be undone.
    after do
      change = History.made
      headers "gate-mile-change" => change.to_s if change
    end

    error Problem do
      problem = env["sinatra.error"]
      status, headers, body = problem.response
      halt status, headers, body
    end

    error ActiveRecord::RecordInvalid do
      halt(*Problem.of_record(env["sinatra.error"].record).response)
    end

    # Two requests at once: the second one finds the row changed, or the name taken, after its own check.
    error ActiveRecord::StaleObjectError, ActiveRecord::RecordNotUnique do
      halt(*Problem.new(409, "Somebody else changed this at the same moment. Look at it again.").response)
    end

    error(*Database::BUSY) { halt(*Problem.busy.response) }

    # What no check of ours has found and the database does not take.
    error ActiveRecord::StatementInvalid do
      error = env["sinatra.error"]
      unwritable = Problem.unwritable(error) and halt(*unwritable.response)
      refused = error.cause.is_a?(SQLite3::ConstraintException)
      Log.fault(error, "#{request.request_method} #{request.path_info}")
      halt(*Problem.new(refused ? 422 : 500,
                        refused ? "These fields don't go together. Nothing was changed." : Problem::MISTAKE).response)
    end

    error Sinatra::NotFound do
      halt(*Problem.new(404, "There is nothing at this address.").response)
    end

    error Sinatra::BadRequest do
      halt(*Problem.new(400, "The address can't be read.").response)
    end

    error do
      unwritable = Problem.unwritable(env["sinatra.error"]) and halt(*unwritable.response)
      Log.fault(env["sinatra.error"], "#{request.request_method} #{request.path_info}")
      halt(*Problem.new(500, Problem::MISTAKE).response)
    end
  end
end
