import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { messageOf, api, answerOf, type Schemas } from '../api/client'
import { Strip } from './strip'
import { FieldError } from '../ui/field-error'
import type { Formats } from '../ui/format'
import { readFile } from '../ui/read-file'
import { type ScheduleProps } from './draft'
import { edgesOf, measureWords, type ScheduleOf } from '../words/measures'
import { Button } from '../ui/button'
import { Fold } from '../ui/fold'
import { Input, TextArea } from '../ui/input'

type Read = Schemas['FromToRead']
type Issue = Read['issues'][number]
type Way = Issue['choices'][number]

/** Rows of from, to and amount, as a spreadsheet or a CSV writes them; a row of headings is passed over. */
function rowsOf(text: string): string[][] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim())
  const mark = lines.some((line) => line.includes('\t'))
    ? '\t'
    : lines.some((line) => line.includes(';'))
      ? ';'
      : ','
  const rows = lines.map((line) => line.split(mark).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')))
  return rows.filter((row, at) => at > 0 || /\d/.test(row[0] ?? '')).map((row) => row.slice(0, 3))
}

/** A tariff written as from–to pairs: what does not fit together is shown, closed by a click, and becomes steps. */
export function FromToList(props: ScheduleProps<ScheduleOf<'steps'>>) {
  return (
    <Fold title="Take a list of from–to pairs" className="mt-1.5">
      {(close) => <Reader {...props} done={close} />}
    </Fold>
  )
}

function Reader({
  label,
  schedule,
  store,
  formats,
  change,
  commit,
  done,
}: ScheduleProps<ScheduleOf<'steps'>> & { done: () => void }) {
  const [text, setText] = useState('')
  const [choices, setChoices] = useState<Record<string, Way>>({})
  const [failed, setFailed] = useState<string | null>(null)
  const before = useRef(schedule)
  const measure = schedule.measure
  const edges = edgesOf(schedule)
  const rows = rowsOf(text)
  const body: Schemas['FromTo'] = { rows, measure, edges, choices }
  const { data, error } = useQuery({
    queryKey: ['from-to', body, store.lock_version],
    queryFn: ({ signal }) => answerOf(api.POST('/api/from-to', { body, signal })),
    enabled: rows.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const read = rows.length ? data : undefined
  // What the list makes is in the draft at once, so that the strip and the bench show it; leaving it puts it back.
  useEffect(() => {
    if (read?.steps.length) change((old) => ({ ...old, steps: read.steps }))
  }, [read, change])
  const leave = () => {
    change(() => before.current)
    setText('')
    setChoices({})
    done()
  }
  const take = () => {
    commit({ ...schedule, steps: read!.steps })
    done()
  }
  return (
    <div className="flex flex-col gap-1.5 py-1.5">
      <p className="text-soft">
        From, to and amount, with tabs, semicolons or commas between; no “to” is an open end. Along{' '}
        {measureWords(measure)}, {edges === 'up_to' ? 'up to and including an edge' : 'from an edge on'}.
      </p>
      <TextArea
        className="w-full max-w-xl"
        rows={5}
        aria-label={`${label}: from–to list`}
        placeholder={'0\t2\t4.95\n2\t5\t7.50'}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Input
        bare
        type="file"
        accept=".csv,text/csv,text/plain"
        aria-label={`${label}: a file of from–to pairs`}
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file)
            void readFile(file).then(
              (found) => {
                setText(found)
                setFailed(null)
              },
              (problem: Error) => setFailed(problem.message),
            )
        }}
      />
      {failed && <FieldError>{failed}</FieldError>}
      {error && <FieldError>{messageOf(error)}</FieldError>}
      {read?.problems.map((problem) => (
        <FieldError key={`${problem.row} ${problem.field}`}>
          Row {problem.row + 1}, {problem.field} “{rows[problem.row]?.[FIELDS.indexOf(problem.field)]}”:{' '}
          {problem.detail}
        </FieldError>
      ))}
      {read && read.steps.length > 0 && (
        <>
          <Drawn read={read} measure={measure} formats={formats} />
          <ul aria-label="What does not fit together">
            {read.issues.map((issue) => (
              <IssueRow
                key={issue.key}
                issue={issue}
                edges={edges}
                choose={(way) => setChoices({ ...choices, [issue.key]: way })}
              />
            ))}
          </ul>
        </>
      )}
      <span className="flex gap-2">
        <Button
          className="border-ink font-semibold"
          disabled={!read || read.steps.length === 0}
          onClick={take}
        >
          Take these {read?.steps.length ?? 0} steps
        </Button>
        <Button onClick={leave}>Leave it as it was</Button>
      </span>
    </div>
  )
}

const FIELDS = ['from', 'to', 'amount']

/** The list drawn along its own measure: holes hatched, stretches that two rows name marked above. */
function Drawn({ read, measure, formats }: { read: Read; measure: string; formats: Formats }) {
  const edges = read.steps.map(({ at }) => parseFloat(at))
  const points = [
    ...edges,
    ...read.issues.flatMap(({ from, to }) => [from, to].map((text) => parseFloat(text ?? ''))),
  ]
  const end = Math.max(1, ...points.filter((point) => !Number.isNaN(point))) * 1.15
  const scale = (figure: number) => (figure / end) * 100
  const pieces = read.steps.map((step, at) => ({
    from: step.at,
    to: read.steps[at + 1]?.at ?? String(end),
    from_in: true,
    to_in: true,
    price: step.none ? null : (step.amount ?? null),
    last: step.none ? null : (step.amount ?? null),
    status: step.none ? ('unavailable' as const) : ('available' as const),
    causes: [],
    sampled: false,
  }))
  const dearest = Math.max(...read.steps.map(({ amount }) => Number(amount ?? 0)))
  return (
    <div className="relative max-w-xl">
      {read.issues
        .filter(({ choices }) => choices.length > 0)
        .map(({ key, from, to }) => (
          <span
            key={key}
            aria-hidden
            className="absolute -top-0.5 h-1 border-x border-t border-brick"
            style={{
              left: `${scale(parseFloat(from ?? '0'))}%`,
              width: `${Math.max(0.5, scale(to === null ? end : parseFloat(to)) - scale(parseFloat(from ?? '0')))}%`,
            }}
          />
        ))}
      <Strip
        name="the list"
        pieces={pieces}
        axis={{
          measure: measure === 'value' ? 'value' : 'weight',
          scale,
          ticks: [],
          label: String,
          most: '',
          here: null,
        }}
        formats={formats}
        off={false}
        priced
        dearest={dearest}
      />
    </div>
  )
}

function sentenceOf(issue: Issue, edges: string): string {
  const { from, to } = issue
  switch (issue.kind) {
    case 'gap':
      return `Between ${from} and ${to} the list says nothing.`
    case 'overlap':
      return to === null ? `From ${from} on two rows hold.` : `Between ${from} and ${to} two rows hold.`
    case 'missing_bottom':
      return `Below ${to} the list says nothing.`
    case 'ends':
      return `The list ends at ${from}.`
    case 'shared_edge':
      return `${from} ends one row and begins the next: exactly ${from} belongs to the ${edges === 'up_to' ? 'first' : 'second'} of them.`
    case 'penny_hole':
      return `Between ${from} and ${to} nothing is meant to lie: they become one edge.`
    case 'open_top':
      return `The last row is open: it holds for anything from ${from} on.`
  }
}

const WAYS: Record<Issue['kind'], Partial<Record<Way, string>>> = {
  gap: { none: 'not available there', lower: 'the row before goes on', upper: 'the row after begins there' },
  overlap: { lower: 'the first of them holds', upper: 'the second holds' },
  missing_bottom: { upper: 'the first row begins at nothing', none: 'not available there' },
  ends: { none: 'not available above', lower: 'the last row goes on' },
  shared_edge: {},
  penny_hole: {},
  open_top: {},
}

/** One thing that does not fit, with its ways out; the one that holds is pressed. */
function IssueRow({ issue, edges, choose }: { issue: Issue; edges: string; choose: (way: Way) => void }) {
  const open = issue.choices.length > 0
  return (
    <li className="flex flex-wrap items-center gap-x-2 gap-y-1 py-0.5">
      <span className={open ? '' : 'text-soft'}>
        <span aria-hidden className={open ? 'text-brick' : ''}>
          {open ? '▲ ' : '· '}
        </span>
        {sentenceOf(issue, edges)}
      </span>
      {issue.choices.map((way) => (
        <Button
          key={way}
          aria-pressed={issue.chosen === way}
          className={`${issue.chosen === way ? 'border-ink bg-white font-semibold' : ''}`}
          onClick={() => choose(way)}
        >
          {WAYS[issue.kind][way]}
          <span className="sr-only">: {sentenceOf(issue, edges)}</span>
        </Button>
      ))}
    </li>
  )
}
