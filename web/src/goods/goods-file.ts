import { useRef, useState } from 'react'
import { messageOf, api, answerOf, type Schemas } from '../api/client'
import { counted } from '../ui/locale'
import { readFile } from '../ui/read-file'
import { importGoods } from '../api/import-stream'
import { foreseeing, useAct } from '../edits/use-act'
import { useLatest } from '../ui/use-latest'

/** Megabytes of a file. */
export const MOST = 20

/** What a file of goods would change, or has changed. */
export type Imported = Schemas['GoodsImported']

/** The first rows of a file, and our guess at its columns. */
export type Head = Schemas['CsvHead']

/** A file of goods, from choosing it to storing it. Choosing other columns reads it again. */
export function useGoodsFile() {
  const act = useAct('/api/products/import', 'table', 'Take the catalogue from a file')
  const [csv, setCsv] = useState('')
  const [head, setHead] = useState<Head | null>(null)
  const [mapping, setMapping] = useState<Record<string, string>>({})
  const [sure, setSure] = useState(false)
  const [comma, setComma] = useState(false)
  const [plan, setPlan] = useState<Imported | null>(null)
  const [progress, setProgress] = useState<{ what: string; done: number; total: number } | null>(null)
  const [error, setError] = useState<string | null>(null)
  const running = useRef<AbortController | null>(null)

  const forget = () => {
    running.current?.abort()
    setCsv('')
    setHead(null)
    setPlan(null)
    setError(null)
    setProgress(null)
  }

  const look = async (
    text: string,
    columns: Record<string, string>,
    also: { sure: boolean; comma: boolean },
  ) => {
    running.current?.abort()
    const run = new AbortController()
    running.current = run
    setError(null)
    setProgress({ what: 'Reading', done: 0, total: 0 })
    try {
      const body = { csv: text, mapping: columns, store: false, ...also }
      const { data } = await importGoods(
        foreseeing,
        body,
        (done, total) => setProgress({ what: 'Reading', done, total }),
        run.signal,
      )
      setPlan(data)
      setProgress(null)
    } catch (failed) {
      if (run.signal.aborted) return
      setPlan(null)
      setProgress(null)
      setError(messageOf(failed))
    }
  }

  const latest = useLatest()
  const begin = async (text: string) => {
    const isLatest = latest()
    forget()
    setCsv(text)
    setSure(false)
    if (!text.trim()) return
    try {
      const beginning = text.split('\n').slice(0, 6).join('\n')
      const found = await answerOf(api.POST('/api/products/csv/head', { body: { csv: beginning } }))
      if (!isLatest()) return
      setHead(found)
      setMapping(found.mapping)
      await look(text, found.mapping, { sure: false, comma })
    } catch (failed) {
      if (isLatest()) setError(messageOf(failed))
    }
  }

  const open = (file: File | undefined) => {
    if (!file) return
    forget()
    void readFile(file, MOST).then(begin, (failed: Error) => setError(failed.message))
  }

  const take = () =>
    act.run(
      async (to) => {
        setProgress({ what: 'Storing', done: 0, total: plan?.total ?? 0 })
        const body = { csv, mapping, sure, comma, store: true }
        return importGoods(to, body, (done, total) => setProgress({ what: 'Storing', done, total })).finally(
          () => setProgress(null),
        )
      },
      (done) => {
        // What is faulty stays on screen until it is put away.
        if (done.faults.length || done.doubts.length) setPlan(done)
        else forget()
      },
      (done) => `Took ${counted(done.created + done.changed, 'row')}`,
    )

  const map = (column: string, header: string) => {
    const next = Object.fromEntries(
      Object.entries({ ...mapping, [column]: header }).filter(([, name]) => name !== ''),
    )
    setMapping(next)
    void look(csv, next, { sure, comma })
  }
  return {
    csv,
    head,
    mapping,
    comma,
    sure,
    plan,
    progress,
    error: error ?? act.message,
    begin,
    open,
    forget,
    take,
    map,
    /** Numbers are written 1,5. */
    writtenWithCommas: (on: boolean) => {
      setComma(on)
      void look(csv, mapping, { sure, comma: on })
    },
    /** Doubtful weights are meant. */
    meant: (on: boolean) => {
      setSure(on)
      void look(csv, mapping, { sure: on, comma })
    },
  }
}

export type GoodsFile = ReturnType<typeof useGoodsFile>
