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

interface Reading<Chosen> {
  text: string
  chosen: Chosen
  /** Imports the rows; otherwise only says what that would change. */
  store: boolean
}

interface Way<Plan, Chosen> {
  /** Where rows are sent; its place among the edits too. */
  path: string
  /** The edit, in words. */
  name: string
  /** Megabytes of a file at most. */
  most?: number | undefined
  /** What is chosen about the file besides its text, e.g. which column is which. */
  initial: Chosen
  /** What stays chosen for the next file. */
  kept?: (chosen: Chosen) => Chosen
  /** Looks at a new text before it is read. */
  begin?: (text: string, chosen: Chosen) => Promise<Chosen>
  ask: (
    to: Changing,
    reading: Reading<Chosen>,
    told: (done: number, total: number) => void,
    signal?: AbortSignal,
  ) => Promise<Taken<Plan>>
  /** What the notice says. */
  taken: string | ((plan: Plan) => string)
  /** Whether rows are left over, to be corrected: they stay on screen. */
  leftOver?: (plan: Plan) => boolean
}

/** Milliseconds without a key after which typed text is read. */
const MOMENT = 250

/** Rows from a file or the clipboard, from the text to the stored rows: a reading always shows first what would change. */
export function useImport<Plan, Chosen>(way: Way<Plan, Chosen>) {
  const act = useAct(way.path, 'table', way.name)
  const [text, setText] = useState('')
  const [chosen, setChosen] = useState(way.initial)
  const [plan, setPlan] = useState<{ of: string; told: Plan } | null>(null)
  const [progress, setProgress] = useState<Progress | null>(null)
  const [error, setError] = useState<string | null>(null)
  const running = useRef<AbortController | null>(null)
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined)

  /** Whatever was being read is not wanted any more. */
  const stop = () => {
    clearTimeout(waiting.current)
    running.current?.abort()
  }
  useEffect(() => stop, [])

  const forget = () => {
    stop()
    setText('')
    setChosen((old) => way.kept?.(old) ?? way.initial)
    setPlan(null)
    setProgress(null)
    setError(null)
  }

  const read = async (content: string, choose: (old: Chosen) => Chosen | Promise<Chosen>) => {
    stop()
    const run = new AbortController()
    running.current = run
    setError(null)
    try {
      const now = await choose(chosen)
      if (run.signal.aborted) return
      setChosen(now)
      setProgress({ what: 'Reading', done: 0, total: 0 })
      const { data } = await way.ask(
        foreseeing,
        { text: content, chosen: now, store: false },
        (done, total) => setProgress({ what: 'Reading', done, total }),
        run.signal,
      )
      if (run.signal.aborted) return
      setPlan({ of: content, told: data })
    } catch (failed) {
      if (run.signal.aborted) return
      setPlan(null)
      setError(messageOf(failed))
    }
    setProgress(null)
  }

  const begin = (content: string) => {
    if (!content.trim()) return forget()
    setText(content)
    void read(content, (old) => (way.begin ? way.begin(content, old) : old))
  }

  return {
    text,
    chosen,
    progress,
    error: error ?? act.message,
    plan: plan?.told ?? null,
    /** The plan is of an older text, or rows are under way. */
    busy: act.busy || progress !== null || plan?.of !== text,
    forget,
    open: (file: File | undefined) => {
      if (!file) return
      forget()
      void readFile(file, way.most).then(begin, (failed: Error) => setError(failed.message))
    },
    type: (content: string) => {
      stop()
      setText(content)
      waiting.current = setTimeout(() => begin(content), MOMENT)
    },
    choose: (changes: Partial<Chosen>) => void read(text, (old) => ({ ...old, ...changes })),
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
        (done) => (way.leftOver?.(done) ? setPlan({ of: text, told: done }) : forget()),
        way.taken,
      ),
  }
}

export type Import<Plan, Chosen> = ReturnType<typeof useImport<Plan, Chosen>>
