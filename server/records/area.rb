# frozen_string_literal: true

module Server
  module Records
    # One part of the world that a zone covers. `only` and `except` hold postcode clauses as the core writes them.
    class Area < Base
      says :kind, :country, :regions, :only, :except

      # How many clauses the setup shows of an area; the whole list is asked for when it is edited.
      SHOWN = 40
      CLAUSES = %w[only except].freeze

      belongs_to :zone, inverse_of: :areas
      validate :readable_by_the_core, :not_there_twice

      # @return [Hash] as in a book document
      def document
        said.reject { |_, value| value.nil? || value == [] }
      end

      # Takes clauses as they were pasted.
      # @param list [String] "only" or "except"
      # @param text [String]
      # @return [void] faults become errors at their positions
      def paste(list, text)
        found = GateMile::ClauseList.parse(text, country)
        @faults = faults.merge(list => found.faults)
        self[list] = found.clauses.map(&:text)
        limit = GateMile::Area::MOST_CLAUSES
        @faults[list] += [{ position: limit, text: "", code: :too_many, most: limit }] if self[list].size > limit
      end

      # @return [Hash] faults of the lists that were pasted
      def faults = @faults || {}

      private

      # Long lists are read once for each state, however often a save asks.
      def readable_by_the_core
        self.country = country&.upcase
        state = [document, faults].hash
        return if @read == state

        read_by_the_core
        @read = [document, faults].hash if errors.none?
      end

      def read_by_the_core
        reader = GateMile::Reader.new(without_pasted)
        area = GateMile::Documents.read(GateMile::Area, reader)
        reader.problems.each { |problem| told(problem.pointer, Words.of(problem.code, **problem.numbers)) }
        tell_faults
        assign_attributes(regions: area.regions) if errors.none?
      end

      # Clauses that were pasted have been read; only whether this kind of area may have any is still to be told.
      def without_pasted
        pasted = faults.keys
        document.except(*pasted).merge(pasted.select { |list| self[list].present? }.to_h { |list| [list, []] })
      end

      def tell_faults
        faults.each do |list, found|
          found.each do |fault|
            told("/#{list}/#{fault[:position]}", "“#{fault[:text]}”: #{Words.of(fault[:code], **fault.slice(:most))}")
          end
        end
      end

      def told(pointer, message) = errors.add(:base, message, pointer: pointer)

      def not_there_twice
        twice = zone&.areas&.any? do |other|
          !other.equal?(self) && !other.marked_for_destruction? && other.document == document
        end
        errors.add(:base, Words.of(:place_twice), pointer: "/country") if twice
      end
    end
  end
end
