import type { Schemas } from '../api/client'
import { WORDS } from './columns'

interface Sample {
  sku: string
  name?: string
  changes: Schemas['FieldChange'][]
}

/** A few of the rows that an edit would change, each with what it was and what it becomes. */
export function Changes({ samples }: { samples: Sample[] }) {
  const shown = samples.filter(({ changes }) => changes.length > 0)
  if (shown.length === 0) return null
  return (
    <ul aria-label="What would change" className="mt-1 max-h-36 overflow-y-auto text-xs">
      {shown.map(({ sku, name, changes }) => (
        <li key={sku} className="flex flex-wrap gap-x-3 border-t border-hair py-0.5">
          <span className="w-56 truncate" data-tip={name}>
            {sku} {name && <span className="text-soft">{name}</span>}
          </span>
          {changes.map(({ field, from, to }) => (
            <span key={field}>
              <span className="text-soft">{WORDS[field] ?? field.replaceAll('_', ' ')}</span> {from || 'none'}
              <span aria-hidden> → </span>
              <span className="sr-only"> becomes </span>
              <b>{to || 'none'}</b>
            </span>
          ))}
        </li>
      ))}
    </ul>
  )
}
