# frozen_string_literal: true

module GateMile
  # A whole setup in JSON (docs/formats/book.schema.json).
  module BookForms
    FORMAT = "gate-mile/book"
    VERSION = 1

    # The lists of a book that stand beside its store and its policies, in the order in which they are read.
    LISTS = { products: GoodsForms::PRODUCT, classes: GoodsForms::SHIPPING_CLASS, treatments: GoodsForms::TREATMENT,
              zones: GeographyForms::ZONE, methods: StoreForms::METHOD, rates: StoreForms::RATE,
              carriers: LiveForms::CARRIER }.freeze
    CARRIERS = 50
    private_constant :CARRIERS

    class << self
      # @param reader [Reader] of the whole document
      # @return [Hash{Symbol => Object}] store, policies and the lists
      def read(reader)
        reader.choice("format", among: [FORMAT])
        reader.whole("version", VERSION..VERSION)
        store = reader.object("store")&.then { |item| StoreForms::STORE.read(item, Setting.new) }
        setting = Setting.new(store&.currency || Currency::UNREAD, store&.time_zone)
        parts = { store: store, **LISTS.to_h { |list, form| [list, list(reader, list, form, setting)] },
                  policies: StoreForms::POLICIES.read(reader, setting, last: false),
                  proofs: ProofForms.list(reader, setting) }
        reader.finish
        parts
      end

      # @param parts [Hash{Symbol => Object}]
      # @return [Hash] for JSON
      def write(parts)
        lists = LISTS.to_h { |list, form| [list.name, parts.fetch(list).map { |item| form.write(item) }] }
        carriers = lists.slice("carriers").reject { |_, list| list.empty? }
        proofs = parts.fetch(:proofs, []).map { |proof| ProofForms::PROOF.write(proof) }
        { "format" => FORMAT, "version" => VERSION, "store" => StoreForms::STORE.write(parts.fetch(:store)),
          **lists.except("carriers"), **StoreForms::POLICIES.write(parts.fetch(:policies)), **carriers,
          **(proofs.empty? ? {} : { "proofs" => proofs }) }
      end

      private

      def list(reader, list, form, setting)
        reader.items(list.name, required: false, most: (CARRIERS if list == :carriers))
              .map { |item| form.read(item, setting) }
      end
    end
  end
end
