/** What a spreadsheet would run as a formula, and is no figure: written with an apostrophe before it. */
const RUNS = /^(?:[=@\t\r]|[+-](?!\d[\d.,]*\s*[\p{L}%]*$))/u

/** Rows as a CSV file of this name, for a table that only the page knows. The first row names the columns. */
export async function downloadCsv(name: string, rows: readonly (readonly (string | number | null)[])[]) {
  const { default: papa } = await import('papaparse')
  const file = new Blob([papa.unparse(rows as unknown[][], { newline: '\n', escapeFormulae: RUNS })], {
    type: 'text/csv;charset=utf-8',
  })
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
