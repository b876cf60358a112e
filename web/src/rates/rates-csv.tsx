import { TableCsv } from '../forms/table-csv'

/** Schedules and grids of all rates out and in as CSV. */
export function RatesCsv() {
  return (
    <TableCsv
      what="rate"
      path="/api/rates"
      columns="zone, method, part, kind, measure, edges, at, across, column, amount, each, increment, percent"
      about="a row for each step or cell; methods by code. The part is empty, a class, or * for everything else."
      effect="The schedules it names are replaced; the rest of their rates, and other rates, stay as they are. A step that is not available has the amount none."
      example="Ireland,TRACKED,,steps,weight,up_to,0 kg,,,4.95,,,"
    />
  )
}
