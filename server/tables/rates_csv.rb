# frozen_string_literal: true

module Server
  # Schedules and grids of rates as CSV: a row for each step or cell. Zones stand by name, methods by code; the part is
  # empty for the whole cart, the name of a class, or * for everything else.
  module RatesCsv
    COLUMNS = %w[zone method part kind measure edges at across across_edges column amount each increment percent].freeze
    OTHERS = "*"
    AREAS = "areas"
    NONE = "none"

    # @param rate [String, nil] id, for one alone
    # @return [String] CSV
    def self.write(rate = nil)
      scope = rate ? Records::Rate.where(id: rate) : Records::Rate.all
      classes = Records::ShippingClass.pluck(:id, :name).to_h
      CSV.generate(**Cells::OUT) do |csv|
        csv << COLUMNS
        scope.joins(:zone).order("zones.position", :position, :id).includes(:zone, :shipping_method).each do |item|
          schedules(item.plan || {}, classes).each do |part, schedule|
            rows(schedule).each { |row| csv << [item.zone.name, item.shipping_method.code, part, *row] }
          end
        end
      end
    end

    # @param plan [Hash] a plan document
    # @param classes [Hash{String => String}] names by id
    # @return [Array<Array(String, Hash)>] part and schedule
    def self.schedules(plan, classes = {})
      list = plan.fetch("classes", []).map { |item| [classes[item["class"]], item["schedule"]] }
      [["", plan["schedule"]], *list, [OTHERS, plan.dig("others", "schedule")]].select(&:last)
    end

    def self.rows(schedule)
      case schedule["kind"]
      when "flat" then [["flat", *[nil] * 6, schedule["amount"]]]
      when "first" then [["first", *[nil] * 6, schedule["first"], schedule["additional"]]]
      when "steps" then schedule["steps"].map { |step| step_row(schedule, step) }
      else grid_rows(schedule)
      end
    end

    def self.step_row(schedule, step)
      ["steps", schedule["measure"], schedule["edges"], step["at"], nil, nil, nil,
       step["none"] ? NONE : step["amount"], *step.values_at("each", "increment", "percent")]
    end

    def self.grid_rows(grid)
      down, right = grid.values_at("rows", "columns")
      names = right["areas"]&.map { |set| set["name"] } || right["at"]
      head = ["grid", *down.values_at("measure", "edges")]
      across = right["areas"] ? [AREAS, nil] : right.values_at("measure", "edges")
      down["at"].zip(grid["cells"]).flat_map do |at, cells|
        names.zip(cells).map { |name, cell| [*head, at, *across, name, cell] }
      end
    end
    private_class_method :rows, :step_row, :grid_rows
  end
end
