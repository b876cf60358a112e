# frozen_string_literal: true

require_relative "../support/browser"

# The sheet against a table of texts in memory: whatever is typed, copied, pasted, filled down, emptied, taken back and
# done again, in whatever order, both hold the same, and so does the server in the end.
class SheetTest < Minitest::Test
  include BrowserSupport

  SHEET = "Price: steps"
  COLUMNS = %w[at amount each increment].freeze
  ROWS = 7
  STEPS = 45
  SEEDS = [3, 17].freeze

  # What a sheet is to whoever uses it: cells, a place, a range, and what can be taken back.
  class Model
    attr_reader :cells, :row, :column, :other

    def initialize(cells)
      @cells = cells
      @row = @column = 0
      @other = [0, 0]
      @done = []
      @undone = []
    end

    def go(row, column, extend: false)
      @other = [row, column] unless extend
      if extend
        (@other = [row, column])
      else
        (@row = row
         @column = column)
      end
    end

    def range
      rows = [@row, @other[0]].minmax
      columns = [@column, @other[1]].minmax
      (rows[0]..rows[1]).to_a.product((columns[0]..columns[1]).to_a)
    end

    def single? = range.size == 1
    def at(row, column) = @cells[row][column]
    def copied = range.group_by(&:first).values.map { |places| places.map { |row, column| at(row, column) }.join("\t") }.join("\n")

    def write(changes)
      changes = changes.select { |(row, column), _| row < @cells.size && column < COLUMNS.size }
      @done << changes.to_h { |(row, column), text| [[row, column], [at(row, column), text]] }
      @undone = []
      changes.each { |(row, column), text| @cells[row][column] = text }
    end

    def undo = step(@done, @undone) { |before, _| before }
    def redo = step(@undone, @done) { |_, after| after }

    private

    def step(from, to)
      changes = from.pop or return
      to << changes
      changes.each { |(row, column), (before, after)| @cells[row][column] = yield(before, after) }
    end
  end

  SEEDS.each do |seed|
    define_method("test_a_sheet_and_its_model_#{seed}") do
      random = Random.new(seed)
      open_sheet
      model = Model.new(shown)
      press_at(model, 0, 1)
      trail = []
      STEPS.times do
        trail << act(random, model)
        assert_equal model.cells, eventually_shown(model), "seed #{seed}, after #{trail.last(4).join("; ")}"
      end
      check_stored(model)
    end
  end

  private

  def open_sheet
    steps = Array.new(ROWS) { |at| { at: "#{at} kg", amount: format("%.2f", at + 1), each: "0.50", increment: "1 kg" } }
    rate = find_setup("rates", "ie-tracked")
    api(:patch, "/api/rates/ie-tracked", { lock_version: rate["lock_version"], plan: { schedule: { kind: "steps", measure: "weight", steps: steps } } })
    visit "/#rate=ie-tracked&field=plan"
    assert_cell "7.00", SHEET, "7 amount"
  end

  # The columns of amounts only: edges that are put in another order would move their rows.
  def act(random, model)
    case random.rand(8)
    when 0, 1 then type(random, model)
    when 2 then press_at(model, random.rand(ROWS), random.rand(1..2))
    when 3 then extend_to(random, model)
    when 4 then paste_some(random, model)
    when 5 then fill_down(model)
    when 6 then take_back(model)
    else do_again(model)
    end
  end

  def press_at(model, row, column)
    cell = sheet_cell(SHEET, "#{row + 1} #{COLUMNS[column]}")
    return "stayed" if [model.row, model.column] == [row, column] && model.single?

    cell.click
    press(:escape) if cell.has_selector?("input", wait: 0)
    model.go(row, column)
    "to #{row} #{column}"
  end

  def extend_to(random, model)
    down = random.rand(0..2)
    row = [model.other[0] + down, ROWS - 1].min
    (row - model.other[0]).times { press(%i[shift down]) }
    model.go(row, model.other[1], extend: true)
    "extended to #{row}"
  end

  def type(random, model)
    text = format("%.2f", random.rand(1..900) / 10.0)
    row = model.row
    column = model.column
    press(text, :enter)
    model.write([row, column] => text) unless model.at(row, column) == text
    model.go([row + 1, ROWS].min, column)
    press_at(model, ROWS - 1, column) if row + 1 >= ROWS
    "typed #{text}"
  end

  def paste_some(random, model)
    text = format("%.2f", random.rand(1..900) / 10.0)
    row = model.row
    column = model.column
    table = model.single? ? [[text], [format("%.2f", text.to_f + 1)]] : [[text]]
    paste(table.map { |line| line.join("\t") }.join("\n"))
    below = table.each_index.to_h { |down| [[row + down, column], table[down][0]] }
    model.write(model.single? ? below.select { |place, _| place[0] < ROWS } : model.range.to_h { |place| [place, text] })
    "pasted #{table}"
  end

  def fill_down(model)
    top = model.range.map(&:first).min
    below = model.range.reject { |row,| row == top }
    press([:ctrl, "d"])
    model.write(below.to_h { |row, column| [[row, column], model.at(top, column)] }) if below.any?
    "filled down #{model.range.size}"
  end

  def take_back(model)
    press([:ctrl, "z"])
    model.undo
    "taken back"
  end

  def do_again(model)
    press([:ctrl, "y"])
    model.redo
    "done again"
  end

  # @return [Array<Array<String>>] the texts of the steps' cells
  def shown
    page.evaluate_script(<<~JS, SHEET, COLUMNS, ROWS)
      Array.from({ length: arguments[2] }, (_, row) => arguments[1].map((column) => {
        const cell = document.querySelector(`[role=grid][aria-label='${arguments[0]}'] [data-cell='${row + 1} ${column}']`)
        const field = cell.querySelector('input')
        return field ? field.value : cell.querySelector('.text-soft') ? '' : cell.textContent
      }))
    JS
  end

  def eventually_shown(model) = eventually { shown.then { |cells| cells if cells == model.cells } } || shown

  def check_stored(model)
    amounts = model.cells.map { |row| row[1] }
    assert_equal(amounts, eventually { stored_amounts.then { |found| found if found == amounts } } || stored_amounts)
  end

  def stored_amounts = find_setup("rates", "ie-tracked")["plan"]["schedule"]["steps"].map { |step| step["amount"] }
end
