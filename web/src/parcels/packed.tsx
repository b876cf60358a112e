import { byId } from '../api/by-id'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { documentOf, useBenchCart } from '../cart/cart'
import { causeSentence } from '../words/reckoning'
import { Answer } from '../ui/answer'
import { formatsOf } from '../ui/format'
import { counted, list } from '../ui/locale'
import { BoxDrawing, layersOf } from './drawing'
import { Select } from '../ui/select'
import { Slider } from '../ui/slider'

type Parcel = Schemas['ParcelsDrawn']['parcels'][number]

/** The parcels of the bench cart, as the shop or one of these rates packs it. */
export function Packed({ rates }: { rates: Schemas['Rate'][] }) {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const [rate, setRate] = useState(setup.store.parcels?.kind === 'boxes' ? '' : (rates[0]?.id ?? ''))
  const body: Schemas['ParcelsRequest'] = { cart: documentOf(cart), ...(rate ? { rate } : {}) }
  const asked = useQuery({
    queryKey: ['parcels', setup.revision, body],
    queryFn: ({ signal }) => answerOf(api.POST('/api/parcels', { body, signal })),
    placeholderData: keepPreviousData,
    enabled: cart.lines.length > 0,
    retry: false,
  })
  const name = (id: string) => {
    const found = byId(setup.rates, id)
    const method = byId(setup.methods, found?.method)?.name
    return `${found?.name ?? method} in ${byId(setup.zones, found?.zone)?.name}`
  }
  return (
    <div className="border border-ink bg-white p-2">
      {rates.length > 0 && (
        <Select
          label="Packed as for"
          className="mb-1 w-full"
          value={rate}
          choices={[['', 'as the shop packs'], ...rates.map(({ id }) => [id, `as for ${name(id)}`] as const)]}
          choose={(value) => setRate(value)}
        />
      )}
      {cart.lines.length === 0 ? (
        <p className="text-soft">Nothing to pack.</p>
      ) : (
        <Answer of={asked} waiting="Packing …">
          {({ cause, parcels }) =>
            cause ? (
              <p className="text-ochre">{causeSentence(cause, formatsOf(setup.store))}</p>
            ) : parcels.length === 0 ? (
              <p className="text-soft">Nothing to pack.</p>
            ) : (
              <ul>
                {parcels.map((parcel, at) => (
                  <ParcelRow key={at} parcel={parcel} />
                ))}
              </ul>
            )
          }
        </Answer>
      )}
    </div>
  )
}

function ParcelRow({ parcel }: { parcel: Parcel }) {
  const layers = parcel.drawing ? layersOf(parcel.drawing) : []
  const [step, setStep] = useState<number | null>(null)
  const layer = Math.min(step ?? layers.length - 1, layers.length - 1)
  const title = parcel.box ?? (parcel.contents.length === 1 ? parcel.contents[0]!.name : 'Parcel')
  return (
    <li className="border-t border-hair py-1.5 first:border-t-0">
      <p className="font-medium">
        {parcel.times > 1 && `${parcel.times} × `}
        {title}
      </p>
      <p className="text-xs text-soft">
        {[
          counted(parcel.units, 'unit'),
          parcel.size && parcel.size.join(' × '),
          parcel.fill !== null && `${parcel.fill} % full`,
          parcel.weight && `weighs ${parcel.weight}`,
          parcel.volumetric && `volumetric ${parcel.volumetric}`,
          parcel.volumetric && parcel.billable && `billed ${parcel.billable}`,
        ]
          .filter(Boolean)
          .join(', ')}
      </p>
      {parcel.drawing && (
        <>
          <BoxDrawing
            drawing={parcel.drawing}
            layer={layer}
            label={`${title}, layer ${layer + 1} of ${layers.length}`}
          />
          {layers.length > 1 && (
            <label className="flex items-center gap-2 text-xs">
              <span className="whitespace-nowrap">
                layer {layer + 1} of {layers.length}
              </span>
              <Slider
                label={`Layers of ${title}`}
                at={layer + 1}
                of={layers.length}
                move={(to) => setStep(to - 1)}
              />
            </label>
          )}
        </>
      )}
      <p className="text-xs">{list(parcel.contents.map(({ name, units }) => `${units} × ${name}`))}</p>
    </li>
  )
}
