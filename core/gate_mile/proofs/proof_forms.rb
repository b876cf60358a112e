# frozen_string_literal: true

module GateMile
  # Proofs in JSON.
  module ProofForms
    # When a proof's cart is checked out; fields of the proof itself.
    module MomentForm
      TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
      private_constant :TIME

      class << self
        # @return [ProofMoment]
        def read(reader, setting)
          at = reader.parsed("at", required: false) do |text|
            LocalMoment.utc(text, setting.time_zone || "UTC")
            text.strip
          end
          weekdays = weekdays(reader)
          reader.problem("weekdays", :at_or_weekdays) if at && weekdays
          ProofMoment.new(at: at, weekdays: weekdays, time: time(reader, weekdays))
        end

        # @return [Hash] for JSON
        def write(moment)
          { "at" => moment.at, "weekdays" => moment.weekdays, "time" => moment.time }.compact
        end

        private

        def weekdays(reader)
          return unless reader.given?("weekdays", read: true)

          list = reader.values("weekdays", most: ProofMoment::WEEK)
          good = list.any? && list.all? { |day| day.is_a?(Integer) && day.between?(1, ProofMoment::WEEK) }
          good ? list.uniq.sort : reader.problem("weekdays", :out_of_range, least: 1, most: ProofMoment::WEEK)
        end

        def time(reader, weekdays)
          found = reader.parsed("time", required: !weekdays.nil?) do |text|
            text.is_a?(String) && text.match?(TIME) ? text : raise(Malformed, :not_a_time)
          end
          found if weekdays
        end
      end
    end

    METHOD = Form.new(ExpectedMethod) do
      text :method_id, "method", most: 40
      needed :kind, "is", among: ExpectedMethod::KINDS.map(&:name), symbol: true
      field(:amount, write: ->(amount) { amount&.to_s }) do |reader, setting|
        wanted = ExpectedMethod::PRICED.map(&:name).include?(reader.peek("is"))
        next reader.money("amount", setting.currency) if wanted

        reader.problem("amount", :unknown_field) if reader.given?("amount", read: true)
      end
      field(:marks, write: ->(marks) { marks.map(&:name) if marks.any? }) do |reader, _|
        reader.texts("marks", most: 2).each_with_index.filter_map do |text, at|
          next text.to_sym if %w[cheapest fastest].include?(text)

          reader.problem(["marks", at], :not_one_of, choices: "cheapest, fastest")
        end
      end
      texts :messages, empty: false, most: ExpectedMethod::MESSAGES, longest: Expected::TEXT
    end

    EXPECTED = Form.new(Expected) do
      field(:status, write: ->(status) { status&.name }) do |reader, _|
        next unless reader.given?("status", read: true)

        reader.choice("status", among: Expected::STATUSES.map(&:name))&.to_sym
      end
      text :zone, required: false, most: 40
      list :methods, METHOD, most: Expected::METHODS, empty: false
      flag :only, default: false, usual: false
      flag :ordered, default: false, usual: false
      text :text, required: false, most: Expected::TEXT
      check do |reader, expected, _|
        seen = {}
        expected.methods.each_with_index do |one, at|
          reader.problem(["methods", at, "method"], :twice, first: seen[one.method_id] + 1) if seen[one.method_id]
          seen[one.method_id] ||= at
        end
        reader.problem(nil, :expects_nothing) if reader.problems.empty? && expected == NOTHING
      end
    end
    NOTHING = Expected.new(methods: [], only: false, ordered: false)
    private_constant :NOTHING

    # What carriers said once.
    module RecordedForm
      STATUSES = %w[answered refused].freeze
      SERVICE = %w[ok refused unusable].freeze
      MOST = 50
      SECOND = /\A(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d):(\d\d)Z\z/
      private_constant :STATUSES, :SERVICE, :MOST, :SECOND

      class << self
        # @param reader [Reader] of the proof
        # @return [Recorded]
        def read(reader, setting)
          found = reader.items("recorded", required: false, most: MOST).map { |item| answer(item, setting) }
          found.empty? ? Recorded::NONE : Recorded.new(found)
        end

        # @return [Array<Hash>, nil] for JSON
        def write(recorded)
          return if recorded.answers.empty?

          recorded.answers.map do |one|
            { "carrier" => one.carrier, "at" => one.at.utc.strftime("%Y-%m-%dT%H:%M:%SZ"), "asked" => one.asked,
              "status" => one.reply.status.name, "said" => one.reply.said,
              "services" => one.reply.services.transform_values { |service| service(service) } }.compact
          end
        end

        private

        def answer(item, setting)
          asked = item.object("asked")&.then { item.peek("asked") }
          reply = Reply.new(status: item.choice("status", among: STATUSES)&.to_sym, age: 0,
                            said: item.text("said", required: false, most: 500), services: services(item, setting))
          read = Recorded::Answer.new(carrier: item.text("carrier", most: 40), asked: asked, reply: reply,
                                      at: time(item))
          item.finish
          read
        end

        def time(item)
          item.parsed("at", required: true) do |text|
            Time.utc(*text.to_s.match(SECOND)&.captures || raise(Malformed, :not_a_moment))
          rescue ArgumentError
            raise Malformed, :not_a_moment
          end
        end

        def services(item, setting)
          given = item.object("services", required: false) or return {}
          given.names.to_h do |code|
            one = given.object(code)
            [code, said(one, setting).tap { one.finish }]
          end
        end

        def said(one, setting)
          prices = one.values("prices", required: false, most: 500)
          found = prices.each_with_index.map { |text, at| price(one, at, text, setting) }
          ServiceAnswer.new(status: one.choice("status", among: SERVICE)&.to_sym, prices: (found if prices.any?),
                            days: days(one), said: one.text("said", required: false, most: 500))
        end

        def price(one, at, text, setting)
          setting.currency && Money.parse(text, setting.currency)
        rescue Malformed => e
          one.problem(["prices", at], e.code, **e.numbers)
        end

        def days(one)
          return unless one.given?("days", read: true)

          list = one.values("days", most: 2)
          good = list.size == 2 && list.all? { |day| day.is_a?(Integer) && day.between?(0, 365) }
          good ? list : one.problem("days", :out_of_range, least: 0, most: 365)
        end

        def service(service)
          { "status" => service.status.name, "prices" => service.prices&.map(&:to_s), "days" => service.days,
            "said" => service.said }.compact
        end
      end
    end

    PROOF = Form.new(Proof) do
      text :id, most: 40
      text :name
      text :note, required: false, most: Proof::NOTE
      texts :tags, empty: false, most: Proof::TAGS, longest: 40
      object :cart, CartForms::CART, required: true
      field(:moment, write: ->(_) {}) { |reader, setting| MomentForm.read(reader, setting) }
      part(read: ->(_, _) { {} }, write: ->(proof) { MomentForm.write(proof.moment) })
      object :expected, EXPECTED, "expects", required: true
      field(:recorded, write: ->(recorded) { RecordedForm.write(recorded) }) do |reader, setting|
        RecordedForm.read(reader, setting)
      end
    end

    # @param reader [Reader] of what holds a list of proofs
    # @param setting [Setting]
    # @return [Array<Proof>] each with a name of its own; what is wrong is told at its place
    def self.list(reader, setting)
      proofs = reader.items("proofs", required: false, most: MOST).map { |item| PROOF.read(item, setting) }
      { "id" => :itself.to_proc, "name" => ->(name) { Product.fold(name) } }.each do |key, same|
        seen = {}
        proofs.each_with_index do |proof, at|
          value = proof[key.to_sym]&.then(&same) or next
          reader.problem(["proofs", at, key], :twice, first: seen[value] + 1) if seen[value]
          seen[value] ||= at
        end
      end
      proofs
    end

    # Proofs in a book, at most.
    MOST = 10_000
  end
end
