# frozen_string_literal: true

module GateMile
  # A list of clauses as it was pasted: the good ones, and the bad ones with their places.
  #
  # clauses: without duplicates, in their order; faults: `{ position:, line:, text:, code: }` each, counted from 1;
  # doubts: `{ position:, line:, text:, doubt: }` of clauses that match nothing, with a {ClauseDoubt}; duplicates: how
  # many were merged.
  class ClauseList < Value.of(:clauses, :faults, :doubts, :duplicates)
    # Doubts that are told, at most.
    SHOWN = 200

    # @param text [String] separated by commas, semicolons or new lines
    # @param country [String]
    # @return [ClauseList]
    def self.parse(text, country)
      clauses = {}
      faults = []
      doubts = []
      count = 0
      items(text) do |item, position, line|
        if count >= Area::MOST_CLAUSES
          break faults << { position: position, line: line, text: "", code: :too_many,
                            most: Area::MOST_CLAUSES }
        end

        clause = Clause.parse(item, country)
        count += 1
        clauses[clause.text] ||= clause
        doubt = ClauseDoubt.of(item, clause, country) if doubts.size < SHOWN
        doubts << { position: position, line: line, text: item, doubt: doubt } if doubt
      rescue Malformed => e
        faults << { position: position, line: line, text: item, code: e.code }
      end
      new(clauses: clauses.values, faults: faults, doubts: doubts, duplicates: count - clauses.size)
    end

    def self.items(text)
      position = 0
      text.each_line.with_index(1) do |row, line|
        row.split(/[,;\t]/).each do |item|
          item.strip!
          yield item, position += 1, line unless item.empty?
        end
      end
    end
    private_class_method :items
  end
end
