# frozen_string_literal: true

module GateMile
  # Rules in JSON: trees of conditions, and what is done.
  module RuleForms
    # A list of texts, at least one.
    # @param reader [Reader]
    # @return [Array<String>]
    def self.list(reader)
      reader.texts("of", most: 500).tap do |list|
        empty = list.empty? && reader.problems.none? { |problem| problem.pointer.start_with?(reader.at("of")) }
        reader.problem("of", :limit_empty) if empty
      end
    end

    # @return [Basis, nil]
    def self.basis(reader, setting)
      reader.object("basis", required: false)&.then { |item| GoodsForms::BASIS.read(item, setting) }
    end

    # A measure between two bounds.
    module MeasuredForm
      class << self
        def read(reader, fact, setting)
          gauge = setting.currency && Gauge.new(fact, setting.currency)
          low, low_in = bound(reader, :low, gauge)
          high, high_in = bound(reader, :high, gauge)
          reader.problem("from", :no_bound) if low.nil? && high.nil? && reader.problems.empty?
          basis = fact == "value" ? RuleForms.basis(reader, setting) : nil
          Condition::Measured.new(fact: fact, low: low, low_in: low_in, high: high, high_in: high_in, basis: basis)
        end

        def write(one)
          { (one.low_in ? "from" : "over") => one.low&.text, (one.high_in ? "up_to" : "below") => one.high&.text,
            "basis" => one.basis && GoodsForms::BASIS.write(one.basis) }.compact
        end

        private

        def bound(reader, side, gauge)
          found = Condition::Measured::BOUNDS[side].filter_map do |key, inside|
            value = reader.parsed(key, required: false) { |text| gauge && Boundary.parse(gauge, text) }
            [value, inside, key] if value
          end
          reader.problem(found.last.last, :two_bounds) if found.size > 1
          found.first&.first(2) || [nil, true]
        end
      end
    end

    # What goods are in the cart.
    module OfGoodsForm
      def self.read(reader, fact, _setting)
        of = fact == "hazard" ? [] : RuleForms.list(reader)
        lines = reader.choice("lines", among: Condition::OfGoods::LINES, default: "any")
        Condition::OfGoods.new(fact: fact, of: of, lines: lines)
      end

      def self.write(one) = { "of" => (one.of if one.of.any?), "lines" => one.lines }.compact
    end

    # One of a list.
    module OneOfForm
      class << self
        def read(reader, fact, _setting)
          Condition::OneOf.new(fact: fact, of: fact == "weekday" ? weekdays(reader) : RuleForms.list(reader))
        end

        def write(one) = { "of" => one.of }

        private

        def weekdays(reader)
          list = reader.values("of", most: 7)
          list.each_with_index do |day, at|
            good = day.is_a?(Integer) && day.between?(1, 7)
            reader.problem(["of", at], :out_of_range, least: 1, most: 7) unless good
          end
          reader.problem("of", :limit_empty) if list.empty? && reader.given?("of")
          list
        end
      end
    end

    # Hours or days.
    module OnClockForm
      KEYS = { "time" => %w[from until], "date" => %w[first last] }.freeze
      TIME = /\A([01]\d|2[0-3]):[0-5]\d\z/
      private_constant :TIME

      class << self
        def read(reader, fact, _setting)
          first, last = KEYS[fact].map { |key| moment(reader, key, fact) }
          reader.problem(KEYS[fact].first, :no_bound) if first.nil? && last.nil? && reader.problems.empty?
          wrong = first && last && (fact == "time" ? first == last : last < first)
          reader.problem(KEYS[fact].last, :ends_before) if wrong
          Condition::OnClock.new(fact: fact, first: first, last: last)
        end

        def write(one) = KEYS[one.fact].zip([one.first, one.last]).to_h.compact

        private

        def moment(reader, key, fact)
          reader.parsed(key, required: fact == "time") do |text|
            good = text.is_a?(String) && (fact == "time" ? text.match?(TIME) : Calendar.date?(text))
            raise Malformed, fact == "time" ? :not_a_time : :not_a_date unless good

            text
          end
        end
      end
    end

    # What an address says.
    module OfAddressForm
      class << self
        def read(reader, fact, _setting)
          country = reader.parsed("country") { |text| Countries.parse(text) } if %w[region postcode].include?(fact)
          of = fact == "po_box" ? nil : list(reader, fact, country)
          address = reader.choice("address", among: Condition::OfAddress::ADDRESSES, default: "delivery")
          Condition::OfAddress.new(fact: fact, country: country, of: of, address: address)
        end

        def write(one) = { "country" => one.country, "of" => one.of&.map(&:to_s), "address" => one.address }.compact

        private

        def list(reader, fact, country)
          texts = RuleForms.list(reader)
          texts.each_with_index.filter_map do |text, at|
            case fact
            when "country" then Countries.parse(text)
            when "region" then country && Regions.parse(country, text)
            else country && Clause.parse(text, country)
            end
          rescue Malformed => e
            reader.problem(["of", at], e.code, **e.numbers)
          end
        end
      end
    end

    FORMS = { Condition::Measured => MeasuredForm, Condition::OfGoods => OfGoodsForm, Condition::OneOf => OneOfForm,
              Condition::OnClock => OnClockForm, Condition::OfAddress => OfAddressForm }.freeze

    # A single condition: what it says beside its fact is told by its kind.
    module ConditionForm
      # @return [Object, nil] nil where its fact is not known
      def self.read(reader, setting)
        fact = reader.choice("fact", among: Condition::FACTS.keys) or return
        FORMS.fetch(Condition::FACTS.fetch(fact)).read(reader, fact, setting).tap { reader.finish }
      end

      # @return [Hash] for JSON
      def self.write(one) = { "fact" => one.fact, **FORMS.fetch(one.class).write(one) }
    end

    # Conditions tied together.
    module TreeForm
      class << self
        # @param reader [Reader] of an object with exactly one of "all", "any", "none"
        # @param setting [Setting]
        # @param depth [Integer] how many trees it stands in, itself among them
        # @return [Tree, nil]
        def read(reader, setting, depth = 1)
          kinds = Tree::KINDS.select { |kind| reader.given?(kind, read: true) }
          return reader.problem(nil, :no_group) if kinds.size != 1
          return reader.problem(nil, :too_deep, most: Tree::DEEPEST) if depth > Tree::DEEPEST

          parts = reader.items(kinds.first, most: Tree::MOST).filter_map do |item|
            tree?(item) ? read(item, setting, depth + 1) : ConditionForm.read(item, setting)
          end
          reader.finish
          Tree.new(of: kinds.first, parts: parts)
        end

        # @return [Hash] for JSON
        def write(tree)
          { tree.of => tree.parts.map { |part| part.is_a?(Tree) ? write(part) : ConditionForm.write(part) } }
        end

        private

        def tree?(item) = Tree::KINDS.any? { |kind| item.given?(kind) }
      end
    end

    ACTION = Form.new(Action) do
      needed :kind, among: Action::KINDS, symbol: true
      field(:method_ids, "methods") { |reader, _| RuleForms.method_ids(reader) }
      field(:text) do |reader, _|
        kind = reader.peek("kind")
        reader.text("text", most: kind == "message" ? 300 : Reader::NAME_LENGTH) if %w[message rename].include?(kind)
      end
      part(read: ->(reader, setting) { RuleForms.change(reader, setting) },
           write: ->(action) { { "amount" => action.amount&.to_s, "percent" => action.percent&.to_s }.compact })
    end

    # @return [Array<String>, nil]
    def self.method_ids(reader)
      unless reader.given?("methods", read: true)
        return reader.peek("kind") == "only" ? reader.problem("methods", :missing) : nil
      end

      reader.texts("methods", most: 500).tap { |ids| reader.problem("methods", :limit_empty) if ids.empty? }
    end

    # @return [Hash] by how much, or to what
    def self.change(reader, setting)
      kind = reader.peek("kind").to_s.to_sym
      return {} unless Action::AMOUNTS.include?(kind)

      relative = %i[add off].include?(kind) && reader.given?("percent", read: true)
      percent = relative ? reader.parsed("percent") { |text| percent(text, kind) } : nil
      amount = reader.money("amount", setting.currency, required: !relative)
      reader.problem("percent", :amount_or_percent) if amount && percent
      { amount: amount, percent: percent }
    end

    def self.percent(text, kind)
      Percentage.parse(text).tap do |found|
        raise Malformed, :zero unless found.value.positive?
        raise Malformed, :out_of_percent if kind == :off && found.value > 100
        raise Malformed.new(:out_of_range, least: 0, most: 1000) if found.value > 1000
      end
    end
    private_class_method :percent

    RULE = Form.new(Rule) do
      list :actions, ACTION, "then", required: true, most: Rule::ACTIONS
      text :id
      text :name
      flag :active, default: true
      object :tree, TreeForm, "when", required: true
      check { |reader, rule, _| reader.problem("then", :does_nothing) if rule.actions.empty? && reader.given?("then") }
    end
  end
end
