# frozen_string_literal: true

module Server
  module Records
    # A kept cart with what it is to get. It may speak of goods, groups and methods that are gone: it says so then.
    class Proof < Base
      says :name, :note, :tags, :cart, :at, :weekdays, :time, :expects, :recorded

      words :name
      unlike_others :name, "proof has this name"
      validate :readable_by_the_core

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }

      # @param setting [GateMile::Setting]
      # @return [GateMile::Proof]
      def value(setting) = GateMile::ProofForms::PROOF.parse(document, setting)

      private

      def readable_by_the_core
        reader = GateMile::Reader.open(said.compact.merge("id" => id || "new"))
        store = Store.current
        read = GateMile::ProofForms::PROOF.read(reader, GateMile::Setting.new(store.money, store.time_zone))
        reader.problems.each { |problem| tell(problem) }
        normalise(read) if reader.problems.empty?
      rescue GateMile::Invalid => e
        e.problems.each { |problem| tell(problem) }
      end

      def tell(problem)
        return if problem.pointer == "/name"

        errors.add(:base, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
      end

      def normalise(read)
        written = GateMile::ProofForms::PROOF.write(read)
        (self.class.said - %w[name]).each { |field| self[field] = written[field] }
      end
    end
  end
end
