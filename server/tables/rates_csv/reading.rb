# frozen_string_literal: true

module Server
  module RatesCsv
    # Reads schedules from CSV: those that the file names take the place of what stands there; the rest of their rates
    # stays. A rate with a fault in any of its schedules is left as it is.
    class Reading
      # Why a rate can't be taken: one or more lines with what is wrong there.
      class Fault < StandardError
        # @return [Array<Hash>] line and detail
        attr_reader :lines

        # @param lines [Array<Hash>]
        def initialize(lines)
          super("faults")
          @lines = lines
        end
      end
      private_constant :Fault

      NEEDED = %w[zone method kind amount].freeze

      # @param csv [String]
      # @raise [Problem] 422 where it is no such table
      def initialize(csv)
        @table = Table.new(csv, NEEDED, optional: COLUMNS - NEEDED)
        @zones = index(Records::Zone.pluck(:name, :id))
        @methods = index(Records::ShippingMethod.pluck(:code, :id))
        @classes = index(Records::ShippingClass.pluck(:name, :id))
      end

      # @param store [Boolean] do it, or only say what it would do
      # @return [Hash] TableImported of the contract
      def read(store:)
        found = { created: [], changed: [], unchanged: [], faults: [], stored: store }
        groups.group_by { |group| group.named.first(2).map { |name| fold(name) } }.each_value do |list|
          found[take(list, store)] << list.first.named.first(2).join(", ")
        rescue Fault => e
          found[:faults].concat(e.lines)
        end
        found
      end

      private

      def index(pairs) = pairs.to_h { |name, id| [fold(name), id] }
      def fold(name) = GateMile::Product.fold(name)

      def groups
        found = {}
        @table.each_row do |row, line|
          cells = COLUMNS.to_h { |name| [name, row[name].to_s.strip] }
          named = cells.values_at("zone", "method", "part")
          (found[named.map { |name| fold(name) }] ||= Group.new(named)).add(cells, line)
        end
        found.values
      end

      def take(list, store)
        rate = Records::Rate.find_or_initialize_by(zone_id: id(list.first, 0, @zones, "zone"),
                                                   shipping_method_id: id(list.first, 1, @methods, "method"))
        paths = {}
        plan = list.inject(rate.plan || {}) { |now, group| put(now, group, paths) }
        rate.plan = GateMile::Documents.write(parsed(plan, paths))
        outcome = outcome(rate)
        rate.save! if store && outcome != :unchanged
        outcome
      end

      def outcome(rate)
        return :created if rate.new_record?

        rate.plan == rate.plan_was ? :unchanged : :changed
      end

      def id(group, at, known, field)
        name = group.named[at]
        known[fold(name)] || refuse(group, "#{field}: #{Words.of(:no_class_named, name: name)}")
      end

      def refuse(group, detail) = raise(Fault, [{ line: group.first_line, detail: detail }])

      # @param paths [Hash] which group stands at which pointer; grows
      # @return [Hash] the plan with the schedule of the group
      def put(plan, group, paths)
        schedule = group.schedule(plan)
        plan, path = group.part.empty? ? whole(plan, group, schedule) : in_part(plan, group, schedule)
        paths[path] = group
        plan
      end

      def whole(plan, group, schedule)
        refuse(group, Words.of(:csv_part_class)) if plan["group"] == "class"

        [plan.merge("schedule" => schedule), "/schedule"]
      end

      def in_part(plan, group, schedule)
        refuse(group, Words.of(:csv_part_whole)) if plan["schedule"]

        plan = { "group" => "class", "classes" => [], **plan }
        return others(plan, schedule) if group.part == OTHERS

        of_class(plan, id(group, 2, @classes, "part"), schedule)
      end

      def others(plan, schedule)
        own = { "charge" => "once", "unclassed" => true, **plan.fetch("others", {}), "carried" => true }
        [plan.merge("others" => own.merge("schedule" => schedule)), "/others/schedule"]
      end

      def of_class(plan, id, schedule)
        list = plan["classes"]
        at = list.index { |item| item["class"] == id } || list.size
        own = { "charge" => "once", **(list[at] || { "class" => id }), "carried" => true, "schedule" => schedule }
        [plan.merge("classes" => [*list.first(at), own, *list.drop(at + 1)]), "/classes/#{at}/schedule"]
      end

      # Tells each problem at the line that it comes from.
      def parsed(plan, paths)
        GateMile::PlanOrder.parse(plan, Records::Store.current.money)
      rescue GateMile::Invalid => e
        raise Fault, (e.problems.map { |problem| told(problem, paths) })
      end

      def told(problem, paths)
        path = paths.keys.find { |key| problem.pointer.start_with?("#{key}/") } || paths.keys.first
        field = problem.pointer.split("/").grep(/\A[a-z]/).last
        { line: paths[path].line(problem.pointer.delete_prefix(path)),
          detail: "#{field}: #{Words.of(problem.code, **problem.numbers)}" }
      end
    end
  end
end
