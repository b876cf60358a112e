# frozen_string_literal: true

module Server
  # What the last revisions touched, kept in memory: by it a compiled book is brought up to date in part rather than
  # read anew. What it does not know (after a start, or too long ago) is read anew.
  module Journal
    KEPT = 40
    # More rows than this are sooner read anew.
    MOST = 4000

    # tables: names of the tables with changes, targets told apart by what they sit on; products: ids of rows of the
    # catalogue, of products or variants; rows: ids by table, areas also by the zone that they are of.
    Touched = Struct.new(:tables, :products, :rows)

    LOCK = Mutex.new
    private_constant :LOCK

    # What lies in the catalogue alone.
    GOODS = %w[products product_targets].freeze

    class << self
      # @param revision [Integer] that the edit led to
      # @param entries [Array<Hash>, nil] as the history holds them; nil for more than is worth knowing
      # @return [void]
      def add(revision, entries)
        step = [revision, entries.nil? || entries.size > MOST ? nil : touched(entries)]
        LOCK.synchronize { @steps = (steps + [step]).sort_by(&:first).last(KEPT) }
      end

      # @return [void]
      def clear
        LOCK.synchronize do
          @steps = []
          @name = SecureRandom.hex(8)
        end
      end

      # @return [String] which journal this is: a new one after each start. A restored database may have come to the
      #   same revision in another way
      def name = @name || LOCK.synchronize { @name ||= SecureRandom.hex(8) }

      # @param revision [Integer]
      # @param upto [Integer]
      # @return [Touched, nil] everything that was touched in between; nil where that is not known
      def between(revision, upto)
        found = steps.select { |at, _| at > revision && at <= upto }
        return if found.size != upto - revision || found.any? { |_, step| step.nil? }

        together(found.map(&:last))
      end

      private

      def steps = @steps ||= []

      def together(steps)
        Touched.new(steps.flat_map(&:tables).uniq, steps.flat_map(&:products).uniq,
                    steps.map(&:rows).reduce({}) { |all, one| all.merge(one) { |_, ids, more| ids | more } })
      end

      def touched(entries)
        Touched.new(entries.map { |entry| place(entry) }.uniq, entries.flat_map { |entry| goods(entry) }.uniq,
                    entries.group_by { |entry| entry["table"] }.transform_values do |same|
                      same.flat_map do |entry|
                        ids(entry)
                      end.uniq
                    end)
      end

      # Of an area that goes only its row says whose it was.
      def ids(entry) = [entry["id"], *rows(entry).filter_map { |row| row["zone_id"] if entry["table"] == "areas" }]

      def rows(entry) = entry.values_at("before", "after").compact

      def place(entry)
        return entry["table"] unless entry["table"] == "treatment_targets"

        rows(entry).any? { |row| row["product_id"] } ? "product_targets" : "class_targets"
      end

      def goods(entry)
        rows = rows(entry)
        case entry["table"]
        when "products" then [entry["id"], *rows.filter_map { |row| row["parent_id"] }]
        when "treatment_targets" then rows.filter_map { |row| row["product_id"] }
        else []
        end
      end
    end
  end
end
