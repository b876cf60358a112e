import { byId } from '../api/by-id'
import { useQuery, keepPreviousData } from '@tanstack/react-query'
import { Download, Printer } from 'lucide-react'
import { useState } from 'react'
import { ApiProblem, answerOf, api, type Schemas, type Setup } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { downloadCsv } from '../ui/download'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { formatsOf, type Formats } from '../ui/format'
import { Price } from '../ui/price'
import { Select } from '../ui/select'
import { Table } from '../ui/table'
import { Typed } from '../ui/typed'

type Measure = 'weight' | 'value' | 'quantity'
type Piece = Schemas['PriceLines']['lines'][string][number]

const MEASURES = [
  ['weight', 'by weight'],
  ['value', 'by order value'],
  ['quantity', 'by quantity'],
] as const

const mostOf = (measure: Measure, setup: Setup) =>
  ({ weight: `40 ${setup.store.weight_unit}`, value: '200', quantity: '20' })[measure]

/** Ordinary goods that no class and no treatment reaches. */
const goods = (setup: Setup) => ({
  lines: [
    {
      name: 'Any goods',
      quantity: 1,
      unit_price: '10.00',
      weight: `1 ${setup.store.weight_unit}`,
      size: { length: '20 cm', width: '15 cm', height: '10 cm' },
    },
  ],
})

interface Row {
  zone: string
  method: string
  live: boolean
  pieces: Piece[]
}

/** What a shopper pays for ordinary goods: every zone, every method, every step. */
export function Tariff() {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const [measure, setMeasure] = useState<Measure>('weight')
  const [typed, setTyped] = useState<Partial<Record<Measure, string>>>({})
  const [most, setMost] = useState<Partial<Record<Measure, string>>>({})
  const upto = most[measure] ?? mostOf(measure, setup)
  const { data, error } = useQuery({
    queryKey: ['tariff', setup.revision, measure, upto],
    queryFn: ({ signal }) =>
      answerOf(api.POST('/api/lines', { body: { cart: goods(setup), measure, most: upto }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const rows: Row[] = setup.zones.flatMap((zone) =>
    setup.rates
      .filter((rate) => rate.zone === zone.id && data?.lines[rate.id])
      .map((rate) => ({
        zone: zone.name,
        method: rate.name ?? byId(setup.methods, rate.method)?.name ?? '',
        live: Boolean(rate.live),
        pieces: data!.lines[rate.id]!,
      })),
  )
  return (
    <div className="pb-8">
      <div className="mb-2 flex flex-wrap items-end gap-2 print:hidden">
        <Select label="Along what" value={measure} choices={MEASURES} choose={setMeasure} />
        <Typed
          label="up to"
          width="w-24"
          value={typed[measure] ?? upto}
          error={error instanceof ApiProblem ? (error.at('/most') ?? error.summary) : undefined}
          change={(text) => setTyped({ ...typed, [measure]: text })}
          commit={() => setMost({ ...most, [measure]: typed[measure] ?? upto })}
        />
        <Button onClick={() => void downloadCsv('tariff.csv', csvOf(rows, measure))}>
          <Download size={13} aria-hidden /> CSV
        </Button>
        <Button onClick={() => window.print()}>
          <Printer size={13} aria-hidden /> Print
        </Button>
      </div>
      <p className="mb-1 text-soft">
        {setup.store?.name}: what one unit of ordinary goods pays,{' '}
        {MEASURES.find(([one]) => one === measure)?.[1]}, without a class, group or coupon. Live prices are
        not asked for.
      </p>
      {error && !(error instanceof ApiProblem) && <FieldError>{error.message}</FieldError>}
      <Table className="w-full max-w-4xl" aria-label="Tariff" sticky>
        <thead className="bg-paper lg:sticky lg:top-0">
          <tr className="border-b border-ink text-left font-cond text-soft">
            {['Zone', 'Method', 'From', 'To'].map((name) => (
              <th key={name} className="py-1 pr-3 font-normal">
                {name}
              </th>
            ))}
            <th className="py-1 text-right font-normal">Price</th>
          </tr>
        </thead>
        <tbody>
          {rows.flatMap((row, at) =>
            row.pieces.map((piece, step) => (
              <tr
                key={`${at} ${step}`}
                className={`border-t align-top ${step ? 'border-hair' : 'border-edge'}`}
              >
                <th scope="row" className="py-0.5 pr-3 text-left font-medium">
                  {step === 0 && rows[at - 1]?.zone !== row.zone && row.zone}
                </th>
                <td className="pr-3">{step === 0 && row.method}</td>
                <td className="pr-3">{figure(piece.from, measure, formats)}</td>
                <td className="pr-3">{figure(piece.to, measure, formats)}</td>
                <td className="text-right whitespace-nowrap">
                  <Cost of={piece} live={row.live} formats={formats} />
                </td>
              </tr>
            )),
          )}
        </tbody>
      </Table>
    </div>
  )
}

const figure = (text: string, measure: Measure, formats: Formats) =>
  measure === 'value' ? formats.money(text) : text

function Cost({
  of: { price, last, causes },
  live,
  formats,
}: {
  of: Piece
  live: boolean
  formats: Formats
}) {
  if (price === null && live) return <span className="font-cond text-soft">live</span>
  if (price === null && causes.some((code) => code.startsWith('address')))
    return <span className="text-soft">by address</span>
  if (price === null) return <span className="text-soft">not offered</span>
  if (last !== null && last !== price)
    return (
      <span className="font-cond font-semibold">
        {formats.money(price)} to {formats.money(last)}
      </span>
    )
  return <Price amount={price} formats={formats} />
}

function csvOf(rows: Row[], measure: Measure) {
  return [
    ['zone', 'method', 'measure', 'from', 'to', 'price', 'price_at_end'],
    ...rows.flatMap(({ zone, method, pieces }) =>
      pieces.map(({ from, to, price, last }) => [
        zone,
        method,
        measure,
        from,
        to,
        price ?? 'none',
        last ?? '',
      ]),
    ),
  ]
}
