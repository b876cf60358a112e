import { Status } from '../ui/alerts'
import { changeOf, type Schemas } from '../api/client'
import { importProofs } from '../api/import-stream'
import { plural } from '../ui/locale'
import { ImportButton, ImportFaults, ImportProgress, ImportSource } from './importer'
import { useImport } from './use-import'

type Imported = Schemas['TableImported']

interface Props {
  /** What a row of the outcome is, e.g. "zone". */
  what: string
  /** e.g. "/api/zones": `.csv` downloads them, `/import` reads them. */
  path: '/api/treatments' | '/api/rates' | '/api/zones' | '/api/boxes' | '/api/proofs'
  columns: string
  /** What a row holds, and how lists are written. */
  about: string
  /** What an import does to those that are there. */
  effect: string
  example: string
}

/** A small table out and in as CSV. Rows with errors are listed and left out. */
export function TableCsv({ what, path, columns, about, effect, example }: Props) {
  const many = plural(what)
  const table = useImport<Imported, null>({
    path: `${path}/import`,
    name: `Import ${many}`,
    initial: null,
    taken: `Imported ${many}`,
    ask: async (to, { text, store }, told, signal) => {
      const body = { csv: text, store }
      if (path === '/api/proofs') return importProofs(to, body, told, signal)
      const { data, response } = await to.POST(`${path}/import`, { body, ...(signal && { signal }) })
      return { data: data!, change: changeOf(response) }
    },
  })
  const { plan } = table
  return (
    <div className="flex max-w-3xl flex-col gap-2">
      <p>
        <a className="underline underline-offset-2" href={`${path}.csv`} download>
          Download all {many} as CSV
        </a>
        <span className="text-soft">: {about}</span>
      </p>
      <p className="text-soft">
        Import {many} from CSV. Columns: {columns}. {effect}
      </p>
      <ImportSource
        of={table}
        many={many}
        rows={6}
        placeholder={`${columns.replaceAll(', ', ',')}\n${example}`}
      />
      <ImportProgress of={table} />
      {plan && (
        <div>
          <Status>
            <b>{plan.created.length}</b> new, <b>{plan.changed.length}</b> changed,{' '}
            <b>{plan.unchanged.length}</b> unchanged, <b>{plan.faults.length}</b> with errors
          </Status>
          <ImportFaults faults={plan.faults} />
          <ImportButton
            of={table}
            rows={plan.created.length + plan.changed.length}
            what={what}
            partly={plan.faults.length > 0}
          />
        </div>
      )}
    </div>
  )
}
