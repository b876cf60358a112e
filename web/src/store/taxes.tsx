import { ArrowUp, Plus } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { ApiProblem, call, type Schemas } from '../api/client'
import { useChoices, useWorkshop } from '../api/setup'
import { moved, useTold } from '../board/edits'
import { Parcels } from '../plans/parcels'
import { Field, FieldError } from '../ui/field'
import { countryName } from '../ui/format'
import { Remover } from '../ui/row-buttons'

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
  const { setup, edit } = useWorkshop()
  const told = useTold()
  const cell = (item: TaxClass, field: 'name' | 'rate') => (
    <Field
      label={`${field === 'name' ? 'Name' : 'Rate'} of ${item.name}`}
      hideLabel
      cell
      width={field === 'name' ? 'w-40' : 'w-16'}
      value={item[field] ?? ''}
      version={item.lock_version}
      pointer={`/${field}`}
      save={(typed, version) =>
        edit(() => call('PATCH', `/api/tax-classes/${item.id}`, { [field]: typed, lock_version: version }))
      }
      read={(current) => (current as TaxClass)[field] ?? ''}
    />
  )
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
            {cell(item, 'name')}
            {cell(item, 'rate')}
            <span className="pt-1.5 text-soft">%</span>
            <span className="ml-auto">
              <button
                type="button"
                className="quiet px-1"
                aria-label={`Move ${item.name} up`}
                disabled={index === 0}
                onClick={() => {
                  const order = moved(setup.tax_classes, index, -1)!
                  void told('', () =>
                    call('PUT', '/api/tax-classes/order', { ids: order.map(({ id }) => id) }),
                  )
                }}
              >
                <ArrowUp size={13} aria-hidden />
              </button>
              <Remover
                name={item.name}
                remove={() =>
                  told(`Removed tax class ${item.name}`, () =>
                    call('DELETE', `/api/tax-classes/${item.id}?lock_version=${item.lock_version}`),
                  )
                }
              />
            </span>
          </li>
        ))}
      </ul>
      <AddTaxClass />
    </section>
  )
}

function AddTaxClass() {
  const { edit } = useWorkshop()
  const [draft, setDraft] = useState({ name: '', rate: '' })
  const [problem, setProblem] = useState<Error | null>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      await edit(() => call('POST', '/api/tax-classes', draft))
      setDraft({ name: '', rate: '' })
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const at = (pointer: string) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined)
  return (
    <form
      className="flex flex-wrap items-start gap-2 border-t border-hair py-2"
      onSubmit={(event) => void submit(event)}
    >
      <input
        className="field w-40"
        aria-label="Name of a new tax class"
        placeholder="Name of a new one"
        aria-invalid={at('/name') ? true : undefined}
        value={draft.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <input
        className="field w-16"
        aria-label="Rate of a new tax class, percent"
        placeholder="%"
        aria-invalid={at('/rate') ? true : undefined}
        value={draft.rate}
        onChange={(event) => setDraft({ ...draft, rate: event.target.value })}
      />
      <button type="submit" className="button">
        <Plus size={13} aria-hidden /> Add
      </button>
      {problem && <FieldError>{at('/name') ?? at('/rate') ?? problem.message}</FieldError>}
    </form>
  )
}

const CHOICES: { field: keyof Basis; label: string; options: [string, string][] }[] = [
  {
    field: 'discounts',
    label: 'Discounts',
    options: [
      ['after', 'after discounts'],
      ['before', 'before discounts'],
    ],
  },
  {
    field: 'tax',
    label: 'Tax',
    options: [
      ['with', 'with tax'],
      ['without', 'without tax'],
    ],
  },
  {
    field: 'lines',
    label: 'Goods',
    options: [
      ['shipping', 'goods that ship'],
      ['all', 'all goods'],
      ['ordinary', 'goods on the ordinary rates'],
    ],
  },
]

function OrderValue() {
  const { setup } = useWorkshop()
  const told = useTold()
  const store = setup.store!
  return (
    <section aria-label="What counts as the order value">
      <h2 className="text-lg">What counts as the order value</h2>
      <p className="text-soft">The bench and every rate by value go by it.</p>
      <div className="mt-2 flex flex-col gap-2">
        {CHOICES.map(({ field, label, options }) => (
          <label key={field} className="grid grid-cols-[5rem_1fr] items-center font-cond text-soft">
            {label}
            <select
              className="field font-sans"
              value={store.basis?.[field] ?? options[0]![0]}
              onChange={(event) =>
                void told('', () =>
                  call('PATCH', '/api/store', {
                    basis: { ...store.basis, [field]: event.target.value },
                    lock_version: store.lock_version,
                  }),
                )
              }
            >
              {options.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </section>
  )
}

/** The merchant's words to shoppers. */
function Texts() {
  const { setup, edit } = useWorkshop()
  const store = setup.store!
  const field = (name: 'zero_word' | 'nothing_text', label: string, hint: string) => (
    <Field
      label={label}
      value={store[name] ?? ''}
      placeholder={hint}
      version={store.lock_version}
      pointer={`/${name}`}
      save={(typed, version) =>
        edit(() => call('PATCH', '/api/store', { [name]: typed.trim() || null, lock_version: version }))
      }
      read={(current) => (current as Schemas['Store'])[name] ?? ''}
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
  const { setup, edit } = useWorkshop()
  const { data: choices } = useChoices()
  const store = setup.store!
  const region = store.holiday_region ?? ''
  return (
    <label className="flex items-center gap-2">
      <span className="font-cond text-soft">Public holidays of</span>
      <select
        className="field"
        value={region}
        onChange={(event) =>
          void edit(() =>
            call('PATCH', '/api/store', {
              holiday_region: event.target.value || null,
              lock_version: store.lock_version,
            }),
          )
        }
      >
        <option value="">none: every weekday is a business day</option>
        {[...new Set([region, ...(choices?.holiday_regions ?? [])])].filter(Boolean).map((code) => (
          <option key={code} value={code}>
            {`${countryName(code.slice(0, 2).toUpperCase())}${code.length > 2 ? `, ${code.slice(3).toUpperCase()}` : ''}`}
          </option>
        ))}
      </select>
    </label>
  )
}

/** How goods become parcels, unless a rate says otherwise. */
function ShopParcels() {
  const { setup, edit } = useWorkshop()
  const [problem, setProblem] = useState<Error | null>(null)
  const store = setup.store!
  return (
    <section aria-label="Parcels">
      <h2 className="text-lg">Parcels</h2>
      <p className="mb-2 text-soft">
        How goods become parcels, for prices by parcel and by billable weight; a rate may do it in its own
        way.
      </p>
      <Parcels
        own
        parcels={store.parcels}
        put={(parcels) =>
          void edit(() => call('PATCH', '/api/store', { parcels, lock_version: store.lock_version })).then(
            () => setProblem(null),
            setProblem,
          )
        }
        errorAt={(pointer) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined)}
      />
    </section>
  )
}
