# frozen_string_literal: true

module GateMile
  # Price plans in JSON.
  module PricingForms
    # A list of boundaries over one measure.
    module ScaleForm
      class << self
        # @param reader [Reader] of an object with `measure` and `edges`
        # @param setting [Setting]
        # @param places [Array<Array(Reader, Object)>] where each boundary stands: a reader and its key
        # @return [Scale, nil] nil where the measure is not known
        def read(reader, setting, places)
          name = reader.choice("measure", among: Gauge::ALL)
          edges = reader.choice("edges", among: Scale::EDGES, default: name ? GaugeKind::ALL[name].side : "from")
          return if name.nil?

          gauge = Gauge.new(name, setting.currency)
          boundaries = places.map { |item, key| item.parsed(key) { |text| Boundary.parse(gauge, text) } }
          in_order(places, boundaries)
          Scale.new(gauge: gauge, edges: edges, boundaries: boundaries)
        end

        # @return [Scale, nil] as the rows or the columns of a grid
        def read_axis(reader, setting, most)
          list = reader.values("at", most: most)
          reader.problem("at", :missing) if list.empty? && reader.given?("at")
          scale = read(reader, setting, list.each_index.map { |at| [Cell.new(reader, "at", at), nil] })
          reader.finish
          scale
        end

        # @return [Hash] for JSON, without the boundaries
        def write(scale) = { "measure" => scale.gauge.name, "edges" => scale.edges }

        # @return [Hash] for JSON
        def write_axis(scale) = { **write(scale), "at" => scale.boundaries.map(&:text) }

        private

        def in_order(places, boundaries)
          places.each_with_index do |(item, key), at|
            now = boundaries[at] or next
            next item.problem(key, :scale_first) if at.zero? && !now.base.zero?

            before = at.positive? ? boundaries[at - 1] : nil
            next if before.nil? || now.base > before.base

            item.problem(key, now.base == before.base ? :edge_twice : :edge_order, last: before.text)
          end
        end
      end
    end

    FLAT = Form.new(Flat) { money :amount, required: true }
    FIRST = Form.new(FirstAdditional) do
      money :first, required: true
      money :additional, required: true
    end

    # Steps over one measure.
    module StepsForm
      class << self
        # @return [Steps]
        def read(reader, setting)
          readers = reader.items("steps", most: Steps::MOST)
          reader.problem("steps", :missing) if readers.empty? && reader.given?("steps")
          scale = ScaleForm.read(reader, setting, readers.map { |item| [item, "at"] })
          steps = readers.map { |item| step(item, setting, scale&.gauge).tap { item.finish } }
          Steps.new(scale: scale, steps: steps).tap { reader.finish }
        end

        # @return [Hash] for JSON
        def write(schedule)
          steps = schedule.scale.boundaries.zip(schedule.steps)
          { **ScaleForm.write(schedule.scale), "steps" => steps.map do |at, step|
            { "at" => at.text, **written(step) }
          end }
        end

        private

        def step(reader, setting, gauge)
          none = reader.flag("none", default: false)
          return Step.new(**amounts(reader, setting.currency, gauge)) unless none

          %w[amount each increment percent].each { |key| reader.given?(key, read: true) }
          Step.new
        end

        def amounts(reader, currency, gauge)
          each = reader.money("each", currency, required: false)
          increment = reader.parsed("increment", required: !each.nil?) do |text|
            next if gauge.nil?

            Boundary.parse(gauge, text).tap { |found| raise Malformed, :zero if found.base.zero? }
          end
          reader.problem("each", :missing) if increment && each.nil?
          { amount: reader.money("amount", currency), each: each, increment: increment,
            percent: reader.parsed("percent", required: false) { |text| TaxClass.rate(text) } }
        end

        def written(step)
          return { "none" => true } if step.closed?

          { "amount" => step.amount.to_s, "each" => step.each&.to_s, "increment" => step.increment&.text,
            "percent" => step.percent&.to_s }.compact
        end
      end
    end

    # A table over two measures, or one measure and sets of areas.
    module GridForm
      class << self
        # @return [Grid]
        def read(reader, setting)
          rows = reader.object("rows")&.then { |item| ScaleForm.read_axis(item, setting, Grid::ROWS) }
          columns = reader.object("columns")&.then { |item| columns(item, setting) }
          Grid.new(rows: rows, columns: columns, cells: cells(reader, setting.currency, rows, columns))
              .tap { reader.finish }
        end

        # @return [Hash] for JSON
        def write(grid)
          columns = written_columns(grid.columns)
          { "rows" => ScaleForm.write_axis(grid.rows), "columns" => columns,
            "cells" => grid.cells.map { |row| row.map { |cell| cell == :none ? Grid::NONE : cell&.to_s } } }
        end

        private

        def written_columns(columns)
          return ScaleForm.write_axis(columns) if columns.is_a?(Scale)

          GeographyForms::AreaSetsForm.write(columns)
        end

        def columns(item, setting)
          return ScaleForm.read_axis(item, setting, Grid::COLUMNS) unless item.given?("areas")

          GeographyForms::AreaSetsForm.read(item, Grid::COLUMNS)
        end

        def cells(reader, currency, rows, columns)
          list = reader.values("cells", most: Grid::ROWS)
          size = [rows&.boundaries&.size, columns&.size]
          unless fits?(list, size)
            return reader.problem("cells", :grid_size, rows: size[0].to_i, columns: size[1].to_i) || []
          end

          list.each_with_index.map do |row, down|
            row.each_index.map { |right| cell(Cell.new(reader, "cells", down, right), currency) }
          end
        end

        def fits?(list, size) = list.size == size[0] && list.all? { |row| row.is_a?(Array) && row.size == size[1] }

        def cell(place, currency)
          return if place.value.nil? || place.value == ""
          return :none if place.value == Grid::NONE

          place.parsed(nil) do |text|
            Money.parse(text, currency).tap { |amount| raise Malformed, :negative if amount.negative? }
          end
        end
      end
    end

    SCHEDULES = { "flat" => [Flat, FLAT], "first" => [FirstAdditional, FIRST], "steps" => [Steps, StepsForm],
                  "grid" => [Grid, GridForm] }.freeze

    # A schedule of any kind.
    module ScheduleForm
      # @return [Flat, FirstAdditional, Steps, Grid, nil]
      def self.read(reader, setting)
        kind = reader.choice("kind", among: SCHEDULES.keys) or return
        SCHEDULES[kind].last.read(reader, setting)
      end

      # @return [Hash] for JSON
      def self.write(schedule)
        kind, (_, form) = SCHEDULES.find { |_, (kind, _)| schedule.is_a?(kind) }
        { "kind" => kind, **form.write(schedule) }
      end
    end

    # What a plan does to the combined price: keys of the plan itself.
    module AdjustmentForm
      class << self
        # @param reader [Reader] of the plan, or of a live rate
        # @return [Adjustment]
        def read(reader, setting)
          limits = %w[minimum maximum].map { |key| reader.money(key, setting.currency, required: false) }
          reader.problem("minimum", :above_maximum, maximum: limits[1].to_s) if limits.all? && limits[0] > limits[1]
          handling = handling(reader.object("handling", required: false), setting.currency)
          Adjustment.new(**handling, minimum: limits[0], maximum: limits[1], ending: ending(reader, setting.currency))
        end

        # @return [Hash] for JSON
        def write(adjustment)
          handling = { "fixed" => adjustment.fixed&.to_s, "percent" => adjustment.percent&.to_s,
                       "per" => adjustment.per }
          { "handling" => (handling.compact if adjustment.handling?), "minimum" => adjustment.minimum&.to_s,
            "maximum" => adjustment.maximum&.to_s, "ending" => adjustment.ending&.to_s }.compact
        end

        private

        def handling(reader, currency)
          return { per: "order" } if reader.nil?

          read = { fixed: reader.money("fixed", currency, required: false, signed: true),
                   percent: reader.parsed("percent", required: false) { |text| percent(text) },
                   per: reader.choice("per", among: Adjustment::PER, default: "order") }
          reader.finish
          read
        end

        def percent(text)
          Percentage.parse(text).tap { |found| raise Malformed, :out_of_hundred unless found.value.between?(-100, 100) }
        end

        def ending(reader, currency)
          found = reader.money("ending", currency, required: false) or return
          found.minor < Adjustment.round(currency) ? found : reader.problem("ending", :ending_large)
        end
      end
    end

    # How one class is priced: an object of its own for each, with the class's id; one for everything else.
    module ClassPriceForm
      class << self
        # @param group [String, nil] id of the class
        # @return [ClassPrice]
        def read(reader, setting, group)
          carried = reader.flag("carried", default: true)
          charge = reader.choice("charge", among: ClassPrice::CHARGES, default: "once")
          schedule = reader.object("schedule", required: carried)&.then { |item| ScheduleForm.read(item, setting) }
          ClassPrice.new(group: group, carried: carried, charge: charge, schedule: carried ? schedule : nil)
        end

        # @return [Hash] for JSON
        def write(price)
          return { "carried" => false } unless price.carried

          { "carried" => true, "charge" => price.charge, "schedule" => ScheduleForm.write(price.schedule) }
        end
      end
    end

    # The classes of a plan: keys of the plan itself.
    module ClassPricesForm
      class << self
        # @param reader [Reader] of the plan
        # @return [ClassPrices]
        def read(reader, setting)
          list = listed(reader, setting)
          others = reader.object("others", required: false)
          unclassed = others&.flag("unclassed", default: false) || false
          rest = others && ClassPriceForm.read(others, setting, nil).tap { others.finish }
          ClassPrices.new(list: list, others: rest, unclassed: unclassed)
        end

        # @return [Hash] for JSON
        def write(prices)
          others = prices.others && { **ClassPriceForm.write(prices.others), "unclassed" => prices.unclassed }
          { "classes" => prices.list.map { |item| { "class" => item.group, **ClassPriceForm.write(item) } },
            "others" => others }.compact
        end

        private

        def listed(reader, setting)
          seen = {}
          reader.list("classes", required: false, most: 500) do |item, at|
            group = item.text("class")
            item.problem("class", :twice, first: seen[group] + 1) if seen.key?(group)
            seen[group] ||= at
            ClassPriceForm.read(item, setting, group)
          end
        end
      end
    end

    # What the goods are priced by: a schedule for every group, or one for each class.
    PRICES = lambda do |reader, setting|
      next { classes: ClassPricesForm.read(reader, setting) } if reader.peek("group") == "class"

      { schedule: reader.object("schedule")&.then { |item| ScheduleForm.read(item, setting) } }
    end
    WRITTEN_PRICES = lambda do |plan|
      next ClassPricesForm.write(plan.classes) if plan.classes

      plan.schedule ? { "schedule" => ScheduleForm.write(plan.schedule) } : {}
    end
    private_constant :PRICES, :WRITTEN_PRICES

    PLAN = Form.new(Plan) do
      choice :group, among: Plan::GROUPS, usual: false
      part(read: PRICES, write: WRITTEN_PRICES)
      choice :combine, among: Plan::COMBINE, usual: false
      part(read: ->(reader, setting) { { adjustment: AdjustmentForm.read(reader, setting) } },
           write: ->(plan) { AdjustmentForm.write(plan.adjustment) })
      object :basis, GoodsForms::BASIS
      object :parcels, ParcelForms::POLICY
    end

    # The dearest first price is a matter of schedules that have one: told last.
    module PlanForm
      class << self
        # @return [Plan]
        def read(reader, setting)
          PLAN.read(reader, setting).tap { |plan| first_and_more(reader, plan) }
        end

        # @return [Hash] for JSON
        def write(plan) = PLAN.write(plan)

        private

        def first_and_more(reader, plan)
          return unless plan.combine == "dearest_first"

          fits = plan.schedules.all? { |schedule| schedule.nil? || schedule.is_a?(FirstAdditional) }
          reader.problem("combine", :needs_first) unless fits
        end
      end
    end
  end
end
