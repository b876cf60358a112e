# frozen_string_literal: true

module GateMile
  # Carts along the plan of one rate: at, below and above every edge, in every step and cell, one unit more and less.
  class RateWalk
    # Started increments of a step that are looked at, cells of a grid, carts on both sides of a parcel's limit.
    INCREMENTS = 2
    CELLS = 600
    PARCELS = 8
    # Carts from which others are made.
    STARTS = 40
    private_constant :INCREMENTS, :CELLS, :PARCELS, :STARTS

    # @param book [Book]
    # @param rate [Rate]
    # @param base [Trial] an ordinary cart of its zone
    def initialize(book, rate, base)
      @book = book
      @rate = rate
      @base = base
      @amounts = Amounts.new(book, rate.plan&.parcels || book.store.parcels)
      @setting = { kind: "rate", id: rate.id, field: "plan" }
    end

    # @yieldparam trial [Trial]
    # @yieldparam reason [Hash]
    # @return [void]
    def each
      return if @rate.plan.nil?

      seen = []
      note = lambda do |trial, reason|
        seen << trial
        yield trial, reason
      end
      ordinary(&note)
      parcels(seen.uniq { |trial| trial.goods.map { |one| [one.shipping_class, one.sides] } }, &note)
      RateProbe.new(@book, plan, seen, starts(seen)).list.each { |trial| yield trial, reason(:shows) }
    end

    # @return [Array<Edge>] of all its schedules
    def edges
      schedules.flat_map { |schedule| edges_of(schedule) }.uniq { |edge| [edge.measure, edge.base] }
    end

    private

    def ordinary(&)
      contexts.each { |trial, schedule, group| schedule(trial, schedule, group, &) }
      units(&)
      mixed(&)
      BoundsWalk.new(@book, @rate, @base, @amounts).each do |trial, numbers|
        yield trial, { **numbers, setting: @setting }
      end
    end

    # From where other carts are looked for: of every class, in every step, and mixed.
    def starts(seen)
      kinds = seen.uniq { |trial| trial.goods.map { |one| [one.shipping_class, one.weight, one.sides, one.worth] } }
      kinds.first(STARTS)
    end

    def plan = @rate.plan
    def schedules = plan ? plan.schedules.compact : []

    # @return [Array<Array(Trial, Object, String)>] carts that a schedule prices, and the class that it is for
    def contexts
      return [[@base, plan.schedule, nil]] if plan.classes.nil?

      named = plan.classes.list.map(&:group)
      own = plan.classes.list.filter_map { |one| [of_class(one.group), one.schedule, one.group] if one.schedule }
      others = plan.classes.others&.schedule or return own
      loose = @book.classes.map(&:id) - named
      [*own, *loose.first(1).map { |id| [of_class(id), others, id] }, [@base, others, nil]]
    end

    def of_class(id) = @base.first(shipping_class: @book.classes.find { |one| one.id == id }&.name)

    def edges_of(schedule)
      schedule.scales.filter_map do |scale|
        scale.respond_to?(:scale) ? scale.scale : scale
      end.grep(Scale).flat_map do |scale|
        scale.boundaries.map { |boundary| Edge.of(scale.gauge, boundary, @setting, plan.basis) }
      end
    end

    def schedule(trial, schedule, group, &)
      case schedule
      when Steps then steps(trial, schedule, group, &)
      when Grid then grid(trial, schedule, group, &)
      else yield trial, reason(:plain, group: group)
      end
    end

    def reason(code, **numbers) = { code: code, setting: @setting, **numbers }.compact

    def put(trial, edge, number) = @amounts.put(trial, edge.measure, number, edge.basis)

    def steps(trial, steps, group, &)
      edges_of(steps).each_with_index do |edge, at|
        near(trial, edge, group, &)
        increments(trial, steps, edge, at, group, &) if steps.steps[at].each
        relative(trial, edge, group, &) if steps.steps[at].percent
      end
    end

    def near(trial, edge, group)
      edge.sides.each do |side, number|
        found = put(trial, edge, number) or next
        yield found, reason(:edge, side: side, measure: edge.measure, figure: edge.text, group: group)
      end
    end

    # At the end of the first started increments, and right behind.
    def increments(trial, steps, edge, at, group)
      step = steps.steps[at]
      last = steps.scale.finish(at)&.base
      (1..INCREMENTS).each do |count|
        number = edge.base + (step.increment.base * count)
        break if last && number > last

        [[:at, number], [:above, number + edge.hair]].each do |side, figure|
          found = put(trial, edge, figure)
          if found
            yield found, reason(:increment, side: side, measure: edge.measure, figure: edge.text, count: count,
                                            group: group)
          end
        end
      end
    end

    # A share of the value shows where that is much.
    def relative(trial, edge, group)
      found = put(trial, edge, edge.base + edge.hair) or return
      told = ->(times) { reason(:worth, measure: edge.measure, figure: edge.text, times: times, group: group) }
      return yield put(trial, edge, [edge.base, 100].max * 2) || found, told.call(2) if edge.measure == "value"

      [2, 40].each { |times| yield found.first(worth: found.goods.first.worth * times), told.call(times) }
    end

    # Every cell, from its start on, and the sides of every edge.
    def grid(trial, grid, group, &)
      rows = scale_edges(grid.rows)
      return in_areas(trial, grid, rows, group, &) if grid.columns.is_a?(AreaSets)

      columns = scale_edges(grid.columns)
      rows.product(columns).first(CELLS).each { |row, column| cell(trial, row, column, group, &) }
      rows.each { |row| near(inside(trial, columns.first), row, group, &) }
      columns.each { |column| near(inside(trial, rows.first), column, group, &) }
    end

    # Every row at one address of each set of areas.
    def in_areas(trial, grid, rows, group, &)
      rows.each { |row| near(trial, row, group, &) }
      addresses(grid.columns).each do |column, address|
        there = trial.with(destination: address)
        rows.each do |row|
          yield inside(there, row), reason(:cell, measure: row.measure, figure: row.text, column: column, group: group)
        end
      end
    end

    # @return [Hash{String => Address}] an address of the zone in each set, where there is one, by the set's name
    def addresses(sets)
      found = {}
      zone = @book.zone(@rate.zone)
      PlaceWalk.new(@book, zone, sets.lists.flatten(1) + zone.areas).each do |address, reason|
        column = reason[:inside] && sets.column(nil, Destination.new(address))
        found[sets.title(column)] ||= address if column.is_a?(Integer)
      end
      found
    end

    def scale_edges(scale) = scale.boundaries.map { |boundary| Edge.of(scale.gauge, boundary, @setting, plan.basis) }
    def inside(trial, edge) = edge ? put(trial, edge, edge.base + edge.hair) || trial : trial

    def cell(trial, row, column, group)
      found = inside(inside(trial, row), column)
      yield found, reason(:cell, measure: row.measure, figure: row.text, column: column&.text, group: group)
    end

    # One unit more, in every class.
    def units
      contexts.each do |trial, _, group|
        [2, 3].each { |count| yield trial.first(quantity: count), reason(:units, count: count, group: group) }
      end
    end

    # Other goods beside them: what is charged for each class, product or unit shows.
    def mixed
      return unless %w[product unit parcel class].include?(plan.group)

      other = @base.goods.first
      more = other.with(name: "Other goods", worth: other.worth * 2, weight: other.weight * 3)
      yield @base.beside(more), reason(:others)
      contexts.combination(2).first(CELLS).each do |(one, _, group), (two, _, _)|
        yield one.beside(*two.goods), reason(:others, group: group)
        yield one.first(quantity: 2).beside(*two.first(quantity: 3).goods), reason(:others, group: group, count: 2)
      end
    end

    # On both sides of what one parcel may weigh, in one unit and in two.
    def parcels(trials)
      limit = (plan.parcels || @book.store.parcels).up_to or return
      edge = Edge.new(measure: "weight", base: limit.base, text: limit.to_s, hair: Weight::UNITS["g"],
                      setting: @setting)
      trials.first(PARCELS).product([1, 2, 3], edge.sides).each do |trial, count, (side, number)|
        found = put(trial.first(quantity: count), edge, number) or next
        yield found, reason(:edge, side: side, measure: "weight", figure: edge.text, count: count)
      end
    end
  end
end
