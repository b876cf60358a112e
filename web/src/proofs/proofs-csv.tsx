import { TableCsv } from '../forms/table-csv'

/** All proofs out and in as CSV. */
export function ProofsCsv() {
  return (
    <TableCsv
      what="proof"
      path="/api/proofs"
      columns="proof, note, tags, goods, country, region, postcode, street, group, coupons, cart, when, zone, status, methods, only, ordered, text, recorded"
      about="a row for each. Goods stand as 2 * SKU, methods by code, as CODE = 4.50, CODE <= 4.50, CODE free or CODE not offered; bars between them."
      effect="New names add a proof, known names replace one, and other proofs stay. A row needs proof, goods and one expected result."
      example="Two charts,,,2 * CHT-PASS-F,GB,,TR29 4ZZ,,,,,,,,TRACKED = 4.50,,,,"
    />
  )
}
