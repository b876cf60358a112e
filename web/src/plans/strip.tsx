import { memo, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { isZero, type Formats } from '../ui/format'
import type { Axis } from './axis'
import { at, type Piece } from './lines'
import { sayNews } from '../ui/alerts'

interface Props {
  name: string
  pieces: Piece[] | undefined
  axis: Axis
  formats: Formats
  off: boolean
  /** Whether a price is said at all. */
  priced: boolean
  /** The highest price on the Board: the height of every step is measured against it. */
  dearest: number
}

const LEAST = 15
const RANGE = 17
/** Figures of gates need so much room, in hundredths of the axis. */
const ROOM = 6

/** Pixels for a price: the root keeps small differences visible beside a pallet's price. */
function heightOf(amount: string | null, dearest: number): number {
  if (amount === null) return LEAST
  return LEAST + (dearest > 0 ? Math.round(RANGE * Math.sqrt(Math.min(1, Number(amount) / dearest))) : 0)
}

function wordsOf(piece: Piece, formats: Formats): string {
  if (piece.status === 'unlooked') return 'too much in the cart to draw'
  if (piece.price === null && piece.causes.includes('live_waiting')) return 'asked live'
  if (piece.price === null && piece.causes.includes('address_decides')) return 'depends on the address'
  if (piece.price === null) return piece.status === 'incomplete' ? 'not said' : 'not available'
  const first = formats.price(piece.price)
  return piece.last !== null && piece.last !== piece.price
    ? `${first} to ${formats.price(piece.last)}`
    : first
}

/** How a position is written on this axis. */
function written(text: string, axis: Axis, formats: Formats): string {
  if (axis.measure === 'value') return formats.money(text).replace(/\.00$/, '')
  // An edge of a part of the cart can lie anywhere along the whole: its figure is rounded for the eye.
  return text.replace(/^\d+\.\d{4,}/, (figure) => `≈ ${Number(figure).toPrecision(4)}`)
}

/** The boundary before a piece as the merchant wrote it: of a closed end it is that end itself. */
function gateOf(piece: Piece, axis: Axis, formats: Formats): string {
  return written(piece.from, axis, formats)
}

/** Which gates have room for their figure beside the one before. */
function clearOf(lefts: number[], room: number): boolean[] {
  return lefts.reduce<{ last: number; clear: boolean[] }>(
    ({ last, clear }, left) => {
      const free = left - last >= room && left < 97
      clear.push(free)
      return { last: free ? left : last, clear }
    },
    { last: -100, clear: [] },
  ).clear
}

/** With more pieces than so many only those that have room are written, and their outline is drawn as one. */
const CROWD = 120
/** So many are told in words. */
const TOLD = 60

interface Run {
  tone: string
  pieces: Piece[]
}

/** Neighbours that look alike. */
function runsOf(pieces: Piece[], toneOf: (piece: Piece) => string): Run[] {
  const runs: Run[] = []
  for (const piece of pieces) {
    const tone = toneOf(piece)
    const last = runs[runs.length - 1]
    if (last?.tone === tone) last.pieces.push(piece)
    else runs.push({ tone, pieces: [piece] })
  }
  return runs
}

/** Hundreds of steps as few shapes. */
function Crowd({
  pieces,
  place,
  dearest,
  toneOf,
}: {
  pieces: Piece[]
  place: (text: string) => number
  dearest: number
  toneOf: (piece: Piece) => string
}) {
  const high = LEAST + RANGE
  return runsOf(pieces, toneOf).map(({ tone, pieces: run }, index) => {
    const left = place(run.at(0)?.from ?? '0')
    const width = Math.max(0.4, place(run.at(-1)?.to ?? '0') - left)
    const x = (text: string) => (((place(text) - left) / width) * 100).toFixed(2)
    const points = run.flatMap((piece) => [
      `${x(piece.from)}% ${high - heightOf(piece.price, dearest)}px`,
      `${x(piece.to)}% ${high - heightOf(piece.last, dearest)}px`,
    ])
    return (
      <div
        key={index}
        className={`absolute bottom-1 ${tone}`}
        style={{
          left: `${left}%`,
          width: `${width}%`,
          height: high,
          clipPath: `polygon(0 100%, ${points.join(', ')}, 100% 100%)`,
        }}
      />
    )
  })
}

/**
 * The drawn price line of one rate: its steps, its gates, its holes. An open end is an arrow, a closed one a wall. Its
 * label reads the whole line out, and the arrow keys step through it; the drawing itself is hidden from screen readers.
 */
export const Strip = memo(function Strip({ name, pieces, axis, formats, off, priced, dearest }: Props) {
  const [pointed, setPointed] = useState<number | null>(null)
  const place = (text: string) => Math.max(0, Math.min(100, axis.scale(at(text))))
  const shown = pieces ?? []
  const told = pointed === null ? undefined : shown[pointed]
  const last = shown[shown.length - 1]

  const rangeWords = ({ from, to }: Piece) =>
    `${written(from, axis, formats)} to ${written(to, axis, formats)}`
  const stepWords = (piece: Piece) => `${rangeWords(piece)}: ${wordsOf(piece, formats)}`
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    const x = ((event.clientX - box.left) / box.width) * 100
    const found = shown.findIndex((piece) => place(piece.to) >= x)
    setPointed(found < 0 ? null : found)
  }
  const keys = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return
    event.preventDefault()
    const next = Math.max(
      0,
      Math.min(shown.length - 1, (pointed ?? -1) + (event.key === 'ArrowRight' ? 1 : -1)),
    )
    setPointed(next)
    const piece = shown[next]
    if (piece) sayNews(stepWords(piece))
  }
  if (!priced || shown.length === 0)
    return (
      <div className="relative mr-3 h-11">
        <div
          className={`absolute inset-x-0 bottom-1 flex items-center border border-dashed border-edge px-2 ${priced ? 'bg-paper' : 'hole'}`}
          style={{ height: LEAST + 6 }}
        >
          <span className="bg-paper px-1 font-medium">{priced ? '…' : 'no price set'}</span>
        </div>
      </div>
    )
  const lefts = shown.slice(1).map((piece) => place(piece.from))
  const crowded = shown.length > CROWD
  const clears = clearOf(lefts, crowded ? 2 * ROOM : ROOM)
  const said = shown.slice(0, TOLD)
  const unsaid = shown.length - said.length
  const toneOf = (piece: Piece) =>
    off
      ? 'bg-paper border-dashed border-edge'
      : piece.price === null
        ? `${piece.status === 'unlooked' ? 'bg-paper' : 'hole'} border-dashed border-edge`
        : isZero(piece.price) && piece.price === piece.last
          ? 'bg-lime border-edge'
          : piece.sampled
            ? 'bg-sand/60 border-dashed border-edge'
            : 'bg-sand border-edge'
  return (
    <div
      className="relative mr-3 h-11"
      role="group"
      data-strip
      tabIndex={-1}
      aria-label={`Price line of ${name}: ${said.map((piece) => `from ${gateOf(piece, axis, formats)} ${wordsOf(piece, formats)}`).join(', ')}${unsaid > 0 ? `, and ${unsaid} more` : ''}`}
      onPointerMove={point}
      onPointerLeave={() => setPointed(null)}
      onFocus={() => setPointed(null)}
      onBlur={() => setPointed(null)}
      onKeyDown={keys}
    >
      {crowded && <Crowd pieces={shown} place={place} dearest={dearest} toneOf={toneOf} />}
      {(crowded ? [] : shown).map((piece, index) => {
        const left = place(piece.from)
        const width = Math.max(0.4, place(piece.to) - left)
        const tall = Math.max(heightOf(piece.price, dearest), heightOf(piece.last, dearest))
        const slope =
          piece.price !== piece.last && piece.price !== null
            ? `polygon(0 ${tall - heightOf(piece.price, dearest)}px, 100% ${tall - heightOf(piece.last, dearest)}px, 100% 100%, 0 100%)`
            : undefined
        const words = wordsOf(piece, formats)
        return (
          <div
            key={index}
            aria-hidden
            className={`absolute bottom-1 flex items-center overflow-hidden border ${index > 0 ? 'border-l-0' : ''} ${toneOf(piece)}`}
            style={{ left: `${left}%`, width: `${width}%`, height: tall, clipPath: slope }}
          >
            {width > words.length * 1.05 + 2 && (
              <span
                className={`px-1.5 font-medium whitespace-nowrap ${piece.price === null ? 'bg-paper px-1' : ''}`}
              >
                {words}
                {off && index === 0 && <span className="text-soft"> · off</span>}
              </span>
            )}
          </div>
        )
      })}
      {shown.slice(1).map((piece, index) => {
        const left = lefts[index] ?? 0
        const clear = clears[index]
        const last = shown[index]?.last ?? null
        if ((crowded && !clear) || piece.sampled) return null
        return (
          <span
            key={index}
            aria-hidden
            className="absolute bottom-1 border-l-2 border-ink"
            style={{
              left: `${left}%`,
              height: Math.max(heightOf(last, dearest), heightOf(piece.price, dearest)) + 5,
            }}
          >
            {clear && (
              <span className="absolute right-0.5 -top-1.5 text-xs leading-none whitespace-nowrap text-soft">
                {gateOf(piece, axis, formats)}
              </span>
            )}
          </span>
        )
      })}
      {last?.price !== null && (
        <svg
          aria-hidden
          viewBox="0 0 8 16"
          className="absolute -right-2 h-4 w-2"
          style={{ bottom: `${heightOf(last?.last ?? null, dearest) / 2 - 4}px` }}
        >
          <path d="M0 0 8 8 0 16z" fill="var(--color-ink)" />
        </svg>
      )}
      {shown.some(({ sampled }) => sampled) && (
        <span
          aria-hidden
          className="absolute -top-0.5 right-0 text-xs leading-none text-soft"
          data-tip="Carriers were asked at these points; between them it is a guess"
        >
          sampled
        </span>
      )}
      {axis.here && (
        <span
          aria-hidden
          className="pointer-events-none absolute inset-y-0 border-l-2 border-ink"
          style={{ left: `${axis.scale(axis.here.at)}%` }}
        >
          <span className="absolute -bottom-0.5 -left-[4px] size-1.5 rounded-full bg-ink" />
        </span>
      )}
      {told && (
        <span
          aria-hidden
          className="pointer-events-none absolute bottom-full z-20 -translate-x-1/2 border border-ink bg-white px-2 py-0.5 whitespace-nowrap"
          style={{ left: `${Math.max(12, Math.min(88, (place(told.from) + place(told.to)) / 2))}%` }}
        >
          {rangeWords(told)}: <b>{wordsOf(told, formats)}</b>
        </span>
      )}
    </div>
  )
})
