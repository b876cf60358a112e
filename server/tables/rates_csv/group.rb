# frozen_string_literal: true

module Server
  module RatesCsv
    # The rows of one schedule in the file: of which zone, method and part they are, and what they make.
    class Group
      # @return [Array<String>] zone, method, part, as they are written
      attr_reader :named

      # @param named [Array<String>]
      def initialize(named)
        @named = named
        @rows = []
        @lines = []
      end

      # @param row [Hash{String => String}] by column
      # @param line [Integer]
      # @return [void]
      def add(row, line)
        @rows << row
        @lines << line
      end

      # @return [String]
      def part = named.last

      # @return [Integer] where it begins
      def first_line = @lines.first

      # @param plan [Hash] the plan document that stands there, which knows what parts of a zone are
      # @return [Hash] a schedule document
      def schedule(plan)
        case first["kind"].downcase
        when "flat" then { "kind" => "flat", "amount" => first["amount"] }
        when "first" then { "kind" => "first", "first" => first["amount"], "additional" => first["each"] }
        when "steps" then { "kind" => "steps", **scale("measure", "edges"), "steps" => @rows.map { |row| step(row) } }
        when "grid" then grid(plan)
        else { "kind" => first["kind"] }
        end
      end

      # @param pointer [String] below the schedule
      # @return [Integer] the line that it comes from
      def line(pointer)
        _, list, at, right = pointer.split("/")
        place = { "steps" => at.to_i, "cells" => (at.to_i * across.size) + right.to_i,
                  "rows" => right.to_i * across.size, "columns" => right.to_i }[list]
        @lines[place || 0] || first_line
      end

      private

      def first = @rows.first

      def scale(measure, edges) = { "measure" => first[measure], "edges" => first[edges].presence }.compact

      def step(row)
        return { "at" => row["at"], "none" => true } if row["amount"].downcase == NONE

        row.slice("at", "amount", "each", "increment", "percent").reject { |key, cell| cell.empty? && key != "amount" }
      end

      def down = @rows.map { |row| row["at"] }.uniq
      def across = @rows.map { |row| row["column"] }.uniq

      def grid(plan)
        cells = @rows.to_h { |row| [row.values_at("at", "column"), row["amount"].presence] }
        { "kind" => "grid", "rows" => scale("measure", "edges").merge("at" => down), "columns" => columns(plan),
          "cells" => down.map { |at| across.map { |name| cells[[at, name]] } } }
      end

      def columns(plan)
        return scale("across", "across_edges").merge("at" => across) unless first["across"] == AREAS

        known = RatesCsv.schedules(plan).flat_map { |_, schedule| schedule.dig("columns", "areas") || [] }
        { "areas" => across.map { |name| known.find { |set| set["name"] == name } || { "name" => name } } }
      end
    end
  end
end
