# frozen_string_literal: true

module GateMile
  # Offers, coupons and customer groups in JSON.
  module OfferForms
    GROUP = Form.new(CustomerGroup) do
      text :id
      text :name, most: 60
    end

    PERIOD = [->(reader, setting) { { period: PromiseForms::PeriodForm.read(reader, setting) } },
              ->(value) { PromiseForms::PeriodForm.write(value.period) }].freeze
    private_constant :PERIOD

    COUPON = Form.new(Coupon) do
      text :id
      text :code, most: 60
      text :note, required: false
      flag :active, default: true
      part(read: PERIOD.first, write: PERIOD.last)
    end

    # Only these groups, or all but these.
    GROUPS = Form.new(GroupChoice) do
      %i[only except].each do |key|
        field(key) { |reader, _| reader.texts(key.name, most: 500) if reader.given?(key.name, read: true) }
      end
      check do |reader, choice, _|
        reader.problem("only", :limit_empty) if choice.only ? choice.only.empty? : choice.except.to_a.empty?
        reader.problem("except", :only_or_except) if choice.only && choice.except
      end
    end

    # How much a cart must come to.
    module ThresholdForm
      class << self
        # @return [Threshold]
        def read(reader, setting)
          measure = reader.choice("measure", among: Threshold::MEASURES)
          gauge = Gauge.new(measure, setting.currency) if measure && setting.currency
          from, below = bounds(reader, gauge)
          basis = reader.object("basis", required: false)&.then { |item| GoodsForms::BASIS.read(item, setting) }
          reader.finish
          Threshold.new(measure: measure, from: from, below: below, basis: basis)
        end

        # @return [Hash] for JSON
        def write(threshold)
          { "measure" => threshold.measure, "from" => threshold.from.text, "below" => threshold.below&.text,
            "basis" => threshold.basis && GoodsForms::BASIS.write(threshold.basis) }.compact
        end

        private

        def bounds(reader, gauge)
          from, below = [["from", true], ["below", false]].map do |key, required|
            reader.parsed(key, required: required) { |text| gauge && Boundary.parse(gauge, text) }
          end
          reader.problem("from", :zero) if from&.base&.zero?
          reader.problem("below", :below_from, from: from.text) if from && below && below.base <= from.base
          [from, below]
        end
      end
    end

    EFFECT = Form.new(Effect) do
      needed :kind, among: Effect::KINDS, symbol: true
      field(:amount, write: ->(amount) { amount&.to_s }) do |reader, setting|
        reader.money("amount", setting.currency) if %w[fixed off].include?(reader.peek("kind"))
      end
      field(:percent, write: ->(percent) { percent&.to_s }) do |reader, _|
        reader.parsed("percent") { |text| OfferForms.percent(text) } if reader.peek("kind") == "percent"
      end
      money :most
      check do |reader, effect, _|
        %i[amount most].each { |key| reader.problem(key.name, :zero) if effect[key]&.zero? }
      end
    end

    # @return [Percentage] of more than nothing
    def self.percent(text)
      Percentage.parse(text).tap do |found|
        raise Malformed, :zero unless found.value.positive?
        raise Malformed, :out_of_percent if found.value > 100
      end
    end

    # What an offer says to shoppers; its closeness is measured as the offer's threshold is.
    module MilepostForm
      LINK = %r{\A(https?://[^\s<>"]+|/[^\s<>"]*)\z}
      private_constant :LINK

      class << self
        # @param threshold [Threshold, nil] of its offer
        # @return [Milepost]
        def read(reader, setting, threshold)
          given = reader.object("texts", required: false)
          Milepost.new(active: reader.flag("active", default: true), texts: given ? texts(given) : {},
                       near: near(reader, threshold, setting), pages: reader.texts("pages", most: 20, longest: 40),
                       closable: reader.flag("closable", default: false), link: link(reader),
                       zones: limit(reader, "zones"), groups: limit(reader, "groups"),
                       period: PromiseForms::PeriodForm.read(reader, setting)).tap { reader.finish }
        end

        # @return [Hash] for JSON
        def write(post)
          { "active" => post.active, "texts" => post.texts, "near" => post.near&.text,
            "pages" => (post.pages if post.pages.any?), "closable" => post.closable, "link" => post.link,
            "zones" => post.zones, "groups" => post.groups, **PromiseForms::PeriodForm.write(post.period) }.compact
        end

        private

        def limit(reader, key) = (reader.texts(key, most: 500) if reader.given?(key, read: true))

        def texts(reader)
          found = Milepost::MOMENTS.to_h do |moment|
            text = reader.text(moment, required: false, most: 300)
            unknown = text.to_s.scan(Milepost::PATTERN).flatten.find { |name| !Milepost::PLACEHOLDERS.include?(name.strip) }
            reader.problem(moment, :unknown_placeholder, name: unknown) if unknown
            [moment, text]
          end
          reader.finish
          found.compact
        end

        def near(reader, threshold, setting)
          gauge = Gauge.new(threshold.measure, setting.currency) if threshold&.measure && setting.currency
          reader.parsed("near", required: false) { |text| gauge && Boundary.parse(gauge, text) }
        end

        def link(reader)
          reader.text("link", required: false, most: 500)&.then do |text|
            text.match?(LINK) && !text.start_with?("//") ? text : reader.problem("link", :not_a_link)
          end
        end
      end
    end

    # A threshold, and the milepost that is measured by it.
    MEASURED = lambda do |reader, setting|
      threshold = reader.object("threshold", required: false)&.then { |item| ThresholdForm.read(item, setting) }
      milepost = reader.object("milepost", required: false)&.then { |item| MilepostForm.read(item, setting, threshold) }
      { threshold: threshold, milepost: milepost }
    end
    WRITTEN_MEASURED = lambda do |offer|
      { "threshold" => offer.threshold && ThresholdForm.write(offer.threshold),
        "milepost" => offer.milepost && MilepostForm.write(offer.milepost) }.compact
    end
    private_constant :MEASURED, :WRITTEN_MEASURED

    OFFER = Form.new(Offer) do
      text :id
      text :name
      flag :active, default: true
      text :label, required: false
      text :label_more, required: false
      limit :zones
      limit :method_ids, "methods"
      limit :coupons
      object :groups, GROUPS
      field(:promotions) do |reader, _|
        reader.choice("promotions", among: Offer::PROMOTIONS) if reader.given?("promotions", read: true)
      end
      field(:first) { |reader, _| reader.whole("first", Offer::ORDERS) if reader.given?("first", read: true) }
      part(read: PERIOD.first, write: PERIOD.last)
      object :blocking, GoodsForms::CHOICE
      object :paying, GoodsForms::CHOICE
      object :effect, EFFECT, required: true
      flag :paying_count, default: true
      flag :own_prices, default: false
      flag :hides_paid, default: false
      flag :combines, default: false
      part(read: MEASURED, write: WRITTEN_MEASURED)
    end
  end
end
