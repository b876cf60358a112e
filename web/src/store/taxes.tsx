import { Plus } from 'lucide-react'
import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useChoices } from '../setup/queries'
import { useActs } from '../edits/acts'
import { useEdited, useEditedStore } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { useMade } from '../edits/made'
import { Parcels, tidyParcels } from '../plans/parcels'
import { Field } from '../forms/field'
import { FieldError } from '../ui/field-error'
import { countryName } from '../ui/locale'
import { Movers, Remover } from '../ui/row-buttons'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

type TaxClass = Schemas['TaxClass']
type Basis = Schemas['Basis']

/** Tax classes with their rates, and which value of a cart counts as the order value. */
export function Taxes() {
  return (
    <div className="mt-8 grid max-w-4xl gap-8 border-t border-edge pt-4 md:grid-cols-2">
      <TaxClasses />
      <OrderValue />
      <Texts />
      <ShopParcels />
      <HolidayRegion />
    </div>
  )
}

function TaxClasses() {
  const { setup } = useWorkshop()
  const acts = useActs()
  return (
    <section aria-label="Tax classes">
      <h2 className="text-lg">Tax classes</h2>
      <p className="text-soft">
        The goods’ prices {setup.store?.prices_include_tax ? 'include' : 'come without'} tax. The first class
        is for goods that name none.
      </p>
      <ul className="mt-1">
        {setup.tax_classes.map((item, index) => (
          <li key={item.id} className="flex items-start gap-2 border-t border-hair py-1">
            <TaxCells item={item} />
            <span className="pt-1.5 text-soft">%</span>
            <span className="ml-auto">
              <Movers
                name={item.name}
                at={index}
                of={setup.tax_classes.length}
                move={(by) => acts.move('tax-classes', item.id, item.name, by)}
              />
              <Remover
                name={item.name}
                remove={() => acts.remove('tax-classes', item, `tax class ${item.name}`)}
              />
            </span>
          </li>
        ))}
      </ul>
      <AddTaxClass />
    </section>
  )
}

function TaxCells({ item }: { item: TaxClass }) {
  const edited = useEdited('tax-classes', item)
  return (
    <>
      <Field of={edited} at="name" label={`Name of ${item.name}`} hideLabel cell width="w-40" />
      <Field of={edited} at="rate" label={`Rate of ${item.name}`} hideLabel cell width="w-16" />
    </>
  )
}

function AddTaxClass() {
  const made = useMade('tax-classes', 'New tax class', { name: '', rate: '' }, (typed) => typed)
  return (
    <form
      className="flex flex-wrap items-start gap-2 border-t border-hair py-2"
      onSubmit={(event) => {
        event.preventDefault()
        made.add()
      }}
    >
      <Input
        className="w-40"
        aria-label="Name of a new tax class"
        placeholder="Name of a new one"
        aria-invalid={made.problemAt('/name') ? true : undefined}
        value={made.doc.name}
        onChange={(event) => made.type({ name: event.target.value })}
      />
      <Input
        className="w-16"
        aria-label="Rate of a new tax class, percent"
        placeholder="%"
        aria-invalid={made.problemAt('/rate') ? true : undefined}
        value={made.doc.rate}
        onChange={(event) => made.type({ rate: event.target.value })}
      />
      <Button type="submit">
        <Plus size={13} aria-hidden /> Add
      </Button>
      {made.problem && <FieldError>{made.problem}</FieldError>}
    </form>
  )
}

const CHOICES: { field: keyof Basis; label: string; options: [string, string][] }[] = [
  {
    field: 'discounts',
    label: 'Discounts',
    options: [
      ['after', 'After discounts'],
      ['before', 'Before discounts'],
    ],
  },
  {
    field: 'tax',
    label: 'Tax',
    options: [
      ['with', 'With tax'],
      ['without', 'Without tax'],
    ],
  },
  {
    field: 'lines',
    label: 'Goods',
    options: [
      ['shipping', 'Goods that ship'],
      ['all', 'All goods'],
      ['ordinary', 'Goods on the ordinary rates'],
    ],
  },
]

function OrderValue() {
  const edited = useEditedStore()
  return (
    <section aria-label="What counts as the order value">
      <h2 className="text-lg">What counts as the order value</h2>
      <p className="text-soft">The bench and every rate by value go by it.</p>
      <div className="mt-2 flex flex-col gap-2">
        {CHOICES.map(({ field, label, options }) => (
          <label key={field} className="grid grid-cols-[5rem_1fr] items-center font-cond text-soft">
            {label}
            <Select
              label={label}
              value={edited.doc.basis?.[field] ?? options[0]![0]}
              choices={options}
              choose={(value) => {
                const chosen = value
                edited.put(
                  `basis ${field}`,
                  `What counts as the order value: ${label.toLowerCase()}`,
                  ({ basis }) => ({
                    basis: { ...basis, [field]: chosen },
                  }),
                )
              }}
            />
          </label>
        ))}
      </div>
    </section>
  )
}

/** The merchant's words to shoppers. */
function Texts() {
  const edited = useEditedStore()
  const field = (name: 'zero_word' | 'nothing_text', label: string, hint: string) => (
    <Field
      of={edited}
      at={name}
      label={label}
      placeholder={hint}
      write={(text) => ({ [name]: text.trim() || null })}
    />
  )
  return (
    <section aria-label="Words to shoppers" className="flex flex-col gap-2">
      <h2 className="text-lg">Words to shoppers</h2>
      {field('zero_word', 'A price of nothing is called', 'free')}
      {field('nothing_text', 'Where nothing can be chosen, unless the zone says otherwise', 'nothing said')}
    </section>
  )
}

/** Whose public holidays are no business days. */
function HolidayRegion() {
  const edited = useEditedStore()
  const { data: choices } = useChoices()
  const region = edited.doc.holiday_region ?? ''
  return (
    <label className="flex items-center gap-2">
      <span className="font-cond text-soft">Public holidays of</span>
      <Select
        label="Public holidays of"
        value={region}
        choices={[
          ['', 'none: every weekday is a business day'],
          ...[...new Set([region, ...(choices?.holiday_regions ?? [])])]
            .filter(Boolean)
            .map(
              (code) =>
                [
                  code,
                  `${countryName(code.slice(0, 2).toUpperCase())}${code.length > 2 ? `, ${code.slice(3).toUpperCase()}` : ''}`,
                ] as const,
            ),
        ]}
        choose={(value) =>
          edited.put('holiday_region', 'Public holidays', () => ({
            holiday_region: value || null,
          }))
        }
      />
    </label>
  )
}

/** How goods become parcels, unless a rate says otherwise. */
function ShopParcels() {
  const edited = useEditedStore()
  const parcels = useWhole(edited, 'parcels', 'Parcels of the shop', {
    read: (store): Schemas['Parcels'] | undefined => store.parcels,
    write: (typed) => (typed ? { parcels: tidyParcels(typed) } : {}),
  })
  return (
    <section aria-label="Parcels">
      <h2 className="text-lg">Parcels</h2>
      <p className="mb-2 text-soft">
        How goods become parcels, for prices by parcel and by billable weight; a rate may do it in its own
        way.
      </p>
      <Parcels
        own
        parcels={parcels.shown}
        change={(next) => parcels.change(() => next)}
        commit={parcels.commit}
        errorAt={edited.problemAt}
      />
    </section>
  )
}
