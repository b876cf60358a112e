# frozen_string_literal: true

module Server
  # Offers and rules as they are being typed, put into a book: in the place of the stored one, or at the end.
  module Previews
    LISTS = { "offer" => "offers", "rule" => "rules" }.freeze
    private_constant :LISTS

    # @param book [GateMile::Book]
    # @param preview [Hash] "offer" or "rule" => its document, with an id
    # @return [GateMile::Book]
    # @raise [Problem] 422
    def self.policy(book, preview)
      kind, document = preview.first
      list = LISTS.fetch(kind)
      documents = book.policies[list].map { |one| GateMile::Documents.write(one) }
      at = documents.index { |item| item["id"] == document["id"] } || documents.size
      documents[at] = document.compact
      book.with(policies: compiled(book, list, documents, at, kind))
    end

    # @param document [Hash, nil] a live rate as it is being typed
    # @param plan [GateMile::Plan, nil] beside it
    # @param book [GateMile::Book]
    # @return [GateMile::LiveRate, nil]
    # @raise [Problem] 422
    def self.live(document, plan, book)
      return if document.nil?

      reader = GateMile::Reader.new({ "live" => document })
      read = GateMile::Documents.read(GateMile::LiveRate, reader.object("live"), book.currency)
      if reader.problems.empty? && plan.nil? && read.plan_in_ladder?
        reader.problem(%w[live ladder],
                       :no_plan_to_fall_back_on)
      end
      raise Problem.of_invalid(GateMile::Invalid.new(reader.problems), under: "/preview") if reader.problems.any?

      read
    end

    def self.compiled(book, list, documents, at, kind)
      reader = GateMile::Reader.new(GateMile::Documents.write(book.policies).merge(list => documents))
      read = GateMile::Documents.read(GateMile::Policies, reader, book.currency, book.store.time_zone)
      if reader.problems.empty?
        GateMile::TermsConsistency.new(reader, { zones: book.zones.to_a, methods: book.methods_in_order,
                                                 classes: book.classes, policies: read }).check
      end
      return read if reader.problems.empty?

      problems = reader.problems.map { |one| one.with(pointer: one.pointer.delete_prefix("/#{list}/#{at}")) }
      raise Problem.of_invalid(GateMile::Invalid.new(problems), under: "/preview/#{kind}")
    end
    private_class_method :compiled
  end
end
