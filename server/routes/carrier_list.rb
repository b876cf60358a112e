# frozen_string_literal: true

module Server
  module Routes
    # Carriers, their accounts, and what came of the last calls.
    module CarrierList
      def self.registered(app)
        app.get("/api/carriers/state") { answer(CarrierList.state) }

        # The next few questions about single goods, so that nobody waits for all of them.
        app.post("/api/carriers/survey") do
          questions = settings.shelf.derived(:survey) { |book| GateMile::LiveSurvey.new(book).requests }
          answer(CarrierList.survey(questions, body_of("SurveyFrom")["from"]))
        end

        # Tests the connection and takes over the services that the carrier names.
        app.post "/api/carriers/:id/test" do
          carrier = found(Records::Carrier, params["id"])
          answer(CarrierList.test(carrier))
        end

        Plain.order(app, "/api/carriers", Records::Carrier, "carrier")
        Plain.routes(app, "/api/carriers", Records::Carrier, "carrier")
      end

      # @return [Hash] CarriersState of the contract
      def self.state
        carriers = Records::Carrier.order(:position, :id).to_a
        { calls: Carriers::Calls.list.first(60),
          resting: carriers.select { |one| Carriers::Lines.resting?(one) }.map(&:id) }
      end

      # @param questions [Array<GateMile::CarrierRequest>]
      # @param from [Integer] how many have been asked already
      # @return [Hash] Surveyed of the contract
      def self.survey(questions, from)
        slice = questions.drop(from).first(Carriers::Port::SLICE)
        replies = Carriers::Port.new.answers(slice).values
        { asked: [from + slice.size, questions.size].min, of: questions.size,
          failed: replies.count { |reply| %i[silent unusable].include?(reply.status) } }
      end

      # @return [Hash] CarrierTested of the contract
      def self.test(carrier)
        services = Carriers::Client.new(carrier, Settings.deadline).services
        known = carrier.services.map { |item| item["code"] }
        { ok: true, said: nil, services: services, new: services.reject { |item| known.include?(item["code"]) }.size }
      rescue Carriers::Trouble => e
        { ok: false, said: e.said, services: [], new: 0 }
      end
    end
  end
end
