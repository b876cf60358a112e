import { TableCsv } from '../forms/table-csv'
import { ProductsCsv } from './products-csv'

/** Goods and treatments out and in as CSV. */
export function GoodsCsv() {
  return (
    <div className="flex flex-col gap-6 pb-8">
      <section aria-label="Products as CSV">
        <h2 className="text-lg">Products</h2>
        <ProductsCsv />
      </section>
      <section aria-label="Treatments as CSV" className="border-t border-edge pt-3">
        <h2 className="mb-1 text-lg">Treatments</h2>
        <TableCsv
          what="treatment"
          path="/api/treatments"
          columns="treatment, active, products, classes, zones, methods, pays, plus, charge, counting, together, by_method, only, never"
          about="a row for each; products by SKU, classes and zones by name, methods by code, semicolons between."
          effect="Pays is along or apart; a charge is 4.00, or in steps 1: 6.00; 4: 4.00. Those it names are replaced; others stay as they are."
          example="Charts post free,yes,CHT-1; CHT-2,,,TRACKED,apart,,0.00,,,,,"
        />
      </section>
    </div>
  )
}
