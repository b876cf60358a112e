# frozen_string_literal: true

module GateMile
  # The way from values to JSON documents and back: of each kind one form.
  module Documents
    FORMS = {
      Address => GeographyForms::ADDRESS, Area => GeographyForms::AreaForm, Zone => GeographyForms::ZONE,
      Duty => GeographyForms::DUTY, Product => GoodsForms::PRODUCT, Variant => GoodsForms::VARIANT,
      ShippingClass => GoodsForms::SHIPPING_CLASS, TaxClass => GoodsForms::TAX_CLASS,
      Treatment => GoodsForms::TREATMENT, OwnPrice => GoodsForms::OwnPriceForm, Charge => GoodsForms::ChargeForm,
      Sides => GoodsForms::SIDES, Basis => GoodsForms::BASIS, Box => ParcelForms::BOX,
      ParcelPolicy => ParcelForms::POLICY, Plan => PricingForms::PlanForm, LiveRate => LiveForms::LIVE,
      Carrier => LiveForms::CARRIER, Delivery => PromiseForms::DeliveryForm, CustomerGroup => OfferForms::GROUP,
      Coupon => OfferForms::COUPON, Offer => OfferForms::OFFER, Rule => RuleForms::RULE, Tree => RuleForms::TreeForm,
      Policies => StoreForms::POLICIES, Store => StoreForms::STORE, Storefront => StoreForms::StorefrontForm,
      ShippingMethod => StoreForms::METHOD, Rate => StoreForms::RATE, CarrierRequest => LiveForms::RequestForm,
      AskedParcel => LiveForms::ParcelForm, **Condition::FACTS.values.uniq.to_h { |kind| [kind, RuleForms::ConditionForm] }
    }.freeze
    private_constant :FORMS

    class << self
      # @param kind [Class] of the value
      # @param reader [Reader] of its document; problems are noted on it
      # @param currency [Currency, nil] of its amounts
      # @param time_zone [String, nil] of its moments
      # @return [Object, nil]
      def read(kind, reader, currency = nil, time_zone = nil)
        FORMS.fetch(kind).read(reader, Setting.new(currency, time_zone))
      end

      # @param kind [Class]
      # @param document [Object] parsed JSON
      # @param currency [Currency, nil]
      # @param time_zone [String, nil]
      # @return [Object]
      # @raise [Invalid] with every problem of the document
      def parse(kind, document, currency = nil, time_zone = nil)
        reader = Reader.open(document)
        value = read(kind, reader, currency, time_zone)
        reader.problems.any? ? raise(Invalid, reader.problems) : value
      end

      # @param value [Object]
      # @return [Hash] for JSON; {.parse} reads it back
      def write(value) = FORMS.fetch(value.class).write(value)
    end
  end
end
