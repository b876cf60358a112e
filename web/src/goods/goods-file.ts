import { api, answerOf, type Schemas } from '../api/client'
import { importGoods } from '../api/import-stream'
import { useImport, type Import } from '../forms/use-import'
import { counted } from '../ui/locale'

/** Megabytes of a file. */
export const MOST = 20

/** What a file of goods would change, or has changed. */
export type Imported = Schemas['GoodsImported']

/** The first rows of a file, and our guess at its columns. */
export type Head = Schemas['CsvHead']

interface Chosen {
  head: Head | null
  /** Our fields, each with the header of its column. */
  mapping: Record<string, string>
  /** Numbers are written 1,5. */
  comma: boolean
  /** Weights that look wrong are right. */
  sure: boolean
}

const UNKNOWN: Chosen = { head: null, mapping: {}, comma: false, sure: false }

export type GoodsFile = Import<Imported, Chosen>

/** A file of goods. Choosing other columns reads it again. */
export function useGoodsFile(): GoodsFile {
  return useImport<Imported, Chosen>({
    path: '/api/products/import',
    name: 'Import the catalogue',
    most: MOST,
    initial: UNKNOWN,
    kept: ({ comma }) => ({ ...UNKNOWN, comma }),
    begin: async (text, { comma }) => {
      const csv = text.split('\n').slice(0, 6).join('\n')
      const head = await answerOf(api.POST('/api/products/csv/head', { body: { csv } }))
      return { head, mapping: head.mapping, comma, sure: false }
    },
    ask: (to, { text, chosen: { mapping, comma, sure }, store }, told, signal) =>
      importGoods(to, { csv: text, mapping, comma, sure, store }, told, signal),
    taken: ({ created, changed }) => `Imported ${counted(created + changed, 'row')}`,
    leftOver: ({ faults, doubts }) => faults.length + doubts.length > 0,
  })
}
