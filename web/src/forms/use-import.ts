import { useEffect, useRef, useState } from 'react'
import { messageOf, type Changing } from '../api/client'
import type { Taken } from '../api/import-stream'
import { foreseeing, useAct } from '../edits/use-act'
import { readFile } from '../ui/read-file'

/** How far a long file is; a total of 0 while that is not known. */
interface Progress {
  what: 'Reading' | 'Storing'
  done: number
  total: number
}

type Told = (done: number, total: number) => void

interface Asked<Chosen> {
  text: string
  chosen: Chosen
}

interface Reading<Plan, Chosen> {
  /** Megabytes of a file at most. */
  most?: number
  /** Choices beside the text, such as the column of each field. */
  initial: Chosen
  /** The choices that the next file begins with; `initial` where there are none to keep. */
  kept?: (chosen: Chosen) => Chosen
  /** Looks at a new text before it is read. */
  begin?: (text: string, chosen: Chosen) => Promise<Chosen>
  /** Says what the rows come to, and stores nothing. */
  read: (asked: Asked<Chosen>, told: Told, signal: AbortSignal) => Promise<Plan>
}

/** Milliseconds without a key after which typed text is read. */
const MOMENT = 250

/** Rows from a file or the clipboard: read as soon as they are there, and again when something else is chosen. */
export function useRows<Plan, Chosen>(way: Reading<Plan, Chosen>) {
  const [text, setText] = useState('')
  const [chosen, setChosen] = useState(way.initial)
  const [plan, setPlan] = useState<{ of: string; told: Plan } | null>(null)
  const [progress, setProgress] = useState<Progress | null>(null)
  const [error, setError] = useState<string | null>(null)
  const running = useRef<AbortController | null>(null)
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined)
  /** The text as it is now, for an answer that arrives later. */
  const newest = useRef('')

  /** Stops a reading that is not wanted any more. */
  const stop = () => {
    clearTimeout(waiting.current)
    running.current?.abort()
  }
  useEffect(() => stop, [])

  const write = (content: string) => {
    newest.current = content
    setText(content)
  }

  const forget = () => {
    stop()
    write('')
    setChosen((old) => way.kept?.(old) ?? way.initial)
    setPlan(null)
    setProgress(null)
    setError(null)
  }

  const look = async (content: string, choose: (old: Chosen) => Chosen | Promise<Chosen>) => {
    stop()
    const run = new AbortController()
    running.current = run
    setError(null)
    try {
      const now = await choose(chosen)
      if (run.signal.aborted) return
      setChosen(now)
      setProgress({ what: 'Reading', done: 0, total: 0 })
      const told = await way.read(
        { text: content, chosen: now },
        (done, total) => setProgress({ what: 'Reading', done, total }),
        run.signal,
      )
      if (run.signal.aborted) return
      setPlan({ of: content, told })
    } catch (failed) {
      if (run.signal.aborted) return
      setPlan(null)
      setError(messageOf(failed))
    }
    setProgress(null)
  }

  const begin = (content: string) => {
    if (!content.trim()) return forget()
    write(content)
    void look(content, (old) => (way.begin ? way.begin(content, old) : old))
  }

  return {
    text,
    chosen,
    progress,
    setProgress,
    error,
    plan: plan?.told ?? null,
    /** The plan is of an older text, or rows are under way. */
    busy: progress !== null || plan?.of !== text,
    clear: forget,
    open: (file: File | undefined) => {
      if (!file) return
      forget()
      void readFile(file, way.most).then(begin, (failed: Error) => setError(failed.message))
    },
    type: (content: string) => {
      stop()
      write(content)
      waiting.current = setTimeout(() => begin(content), MOMENT)
    },
    choose: (changes: Partial<Chosen>) => void look(text, (old) => ({ ...old, ...changes })),
    /** Shows what became of a text, unless another one has been typed since: that one stays. */
    became: (content: string, told: Plan | null) => {
      if (newest.current !== content) return
      if (told === null) forget()
      else setPlan({ of: content, told })
    },
  }
}

export type Rows<Plan, Chosen> = ReturnType<typeof useRows<Plan, Chosen>>

interface Way<Plan, Chosen> extends Omit<Reading<Plan, Chosen>, 'read'> {
  /** Where rows are sent; its place among the edits too. */
  path: string
  /** The edit, in words. */
  name: string
  /** Sends the rows, to store them or only to see what that would change. */
  ask: (
    to: Changing,
    asked: Asked<Chosen> & { store: boolean },
    told: Told,
    signal?: AbortSignal,
  ) => Promise<Taken<Plan>>
  /** What the notice says. */
  taken: string | ((plan: Plan) => string)
  /** Whether rows are left over, to be corrected: they stay on screen. */
  leftOver?: (plan: Plan) => boolean
}

/** Rows that can be stored: what that would change is always shown first. */
export function useImport<Plan, Chosen>(way: Way<Plan, Chosen>) {
  const act = useAct(way.path, 'table', way.name)
  const rows = useRows<Plan, Chosen>({
    ...way,
    read: async (asked, told, signal) =>
      (await way.ask(foreseeing, { ...asked, store: false }, told, signal)).data,
  })
  const { text, chosen, setProgress } = rows
  return {
    ...rows,
    error: rows.error ?? act.message,
    busy: rows.busy || act.busy,
    clear: () => {
      act.drop()
      rows.clear()
    },
    take: () =>
      act.run(
        (to) => {
          setProgress({ what: 'Storing', done: 0, total: 0 })
          return way
            .ask(to, { text, chosen, store: true }, (done, total) =>
              setProgress({ what: 'Storing', done, total }),
            )
            .finally(() => setProgress(null))
        },
        (done) => rows.became(text, way.leftOver?.(done) ? done : null),
        way.taken,
      ),
  }
}

export type Import<Plan, Chosen> = ReturnType<typeof useImport<Plan, Chosen>>
