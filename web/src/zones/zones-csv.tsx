import { TableCsv } from '../forms/table-csv'

/** Zones out and in as CSV. */
export function ZonesCsv() {
  return (
    <TableCsv
      what="zone"
      path="/api/zones"
      columns="zone, active, kind, country, regions, only, except"
      about="a row for each area; lists stand in one cell, with semicolons between."
      effect="The areas of the zones it names are replaced; other zones stay as they are."
      example="Islands,yes,country,GB,,IV; KA27 to KA28,"
    />
  )
}
