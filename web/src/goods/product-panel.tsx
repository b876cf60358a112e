import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'
import { api, answerOf, type Product, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useBenchResult } from '../cart/result'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { EditorButtons } from '../ui/editor-buttons'
import { formatsOf } from '../ui/format'
import { counted, list } from '../ui/locale'
import { AddProduct } from './add-product'
import { treatmentSentence } from '../words/goods'
import { Table } from '../ui/table'
import { Select } from '../ui/select'
import { Button } from '../ui/button'

type Treated = Schemas['Treated']

const LEVELS = { variant: 'on the variant', product: 'on the product', class: 'on its class' } as const
const STATES = {
  in_force: 'in force',
  partly: 'in force in part',
  shadowed: 'shadowed',
  nowhere: 'applies nowhere',
  off: 'off',
} as const

/** One product or variant: the treatments that reach it, where each comes from, and what they do at every rate. */
export function ProductPanel({ product, close }: { product: Product; close: () => void }) {
  const { setup, send } = useWorkshop()
  const { act, remove } = useActs()
  const navigate = useNavigate()
  const formats = formatsOf(setup.store)
  // The row as it stands now: what was opened may have been edited since.
  const { data: found } = useQuery({
    queryKey: ['products', 'panel', product.id, setup.revision],
    queryFn: async ({ signal }) => {
      const page = await answerOf(
        api.GET('/api/products', { params: { query: { limit: 20, q: product.sku } }, signal }),
      )
      return page.products.find(({ id }) => id === product.id) ?? null
    },
  })
  const { data: treated } = useQuery({
    queryKey: ['treated', product.id, setup.revision],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/products/{id}/treatments', { params: { path: { id: product.id } }, signal })),
  })
  const now = found ?? product
  const edited = useEdited('products', now)
  const free = setup.treatments.filter(({ id }) => !now.treatments.includes(id))
  const target = (id: string, how: 'add' | 'remove') => {
    const treatment = byId(setup.treatments, id)
    act(
      `/api/treatments/${id}`,
      `targets ${how} ${now.id}`,
      `${treatment?.name} on ${now.name}`,
      (_, { lock_version = 0 }) =>
        send((to) =>
          to.POST('/api/treatments/{id}/targets', {
            params: { path: { id } },
            body: { lock_version, [how]: { products: [now.id] } },
          }),
        ),
      treatment,
    )
  }
  const ownPrice = () =>
    act('/api/treatments', `own ${now.id}`, `A price of its own for ${now.name}`, async () => {
      const made = await send((to) =>
        to.POST('/api/treatments', { body: { name: now.name, on: { products: [now.id] } } }),
      )
      void navigate(`/goods/treatments#treatment=${made.id}&field=price`)
    })
  return (
    <section
      aria-label={`About ${now.name}`}
      className="max-h-[52%] shrink-0 overflow-y-auto border-b border-l-4 border-edge border-l-ink bg-white px-3 py-2"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <header className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-lg">{now.name}</h2>
        <span className="text-soft">
          {now.sku}
          {now.inherited && ` · a variant of ${now.inherited.name}`}
          {now.variants > 0 && ` · ${counted(now.variants, 'variant')}`}
        </span>
        <span className="ml-auto flex gap-2">
          {!now.parent && setup.tax_classes.length > 0 && (
            <label className="flex items-center gap-1 font-cond text-soft">
              Tax class
              <Select
                label="Tax class"
                value={edited.doc.tax_class ?? ''}
                choices={[
                  ['', `${setup.tax_classes[0]?.name} (the first)`],
                  ...setup.tax_classes.map(({ id, name, rate }) => [id, `${name}, ${rate} %`] as const),
                ]}
                choose={(value) => {
                  const chosen = value || null
                  edited.put('tax_class', `Tax class of ${now.name}`, () => ({ tax_class: chosen }))
                }}
              />
            </label>
          )}
          <EditorButtons
            remove={() => {
              const also = now.variants ? ` with ${counted(now.variants, 'variant')}` : ''
              remove('products', now, now.name ?? '', { said: `Removed ${now.name}${also}` })
              close()
            }}
            close={close}
            closing="Close"
            focused
          />
        </span>
      </header>
      <ul aria-label="Treatments that reach it" className="mt-1">
        {treated?.treatments.map((row) => {
          const treatment = byId(setup.treatments, row.treatment)
          const shadow = byId(setup.treatments, row.shadowed_by)?.name
          if (!treatment) return null
          const own = row.level === (now.parent ? 'variant' : 'product')
          return (
            <li
              key={`${row.treatment} ${row.level}`}
              className="flex items-baseline gap-3 border-t border-hair py-1"
            >
              <span className="w-28 shrink-0 font-cond text-soft">{LEVELS[row.level]}</span>
              <span className="flex-1">
                <Link
                  className="font-medium underline underline-offset-2"
                  to={`/goods/treatments#treatment=${treatment.id}`}
                >
                  {treatment.name}
                </Link>
                : {treatmentSentence(treatment, formats, setup)}
              </span>
              <span className={row.state === 'in_force' ? 'font-semibold' : 'text-ochre'}>
                {STATES[row.state]}
                {shadow && ` by ${shadow}`}
              </span>
              {own && (
                <Button look="quiet" onClick={() => void target(treatment.id, 'remove')}>
                  Take off<span className="sr-only">: {treatment.name}</span>
                </Button>
              )}
            </li>
          )
        })}
        {treated?.treatments.length === 0 && (
          <li className="border-t border-hair py-1 text-soft">
            No treatment reaches it: it goes with the cart, by any method.
          </li>
        )}
      </ul>
      <p className="flex flex-wrap items-center gap-2 border-t border-hair py-1.5">
        <Button onClick={ownPrice}>Give it a price of its own</Button>
        <span className="text-soft">
          a treatment that sits on {now.variants ? 'it and its variants' : 'it'} alone
        </span>
      </p>
      {free.length > 0 && (
        <label className="flex items-center gap-2 border-t border-hair py-1.5">
          <span className="w-28 shrink-0 font-cond text-soft">Put on it</span>
          <Select
            label={`Put a treatment on ${now.name}`}
            placeholder={'a treatment …'}
            value={''}
            choices={free.map(({ id, name }) => [id, name] as const)}
            choose={(value) => void target(value, 'add')}
          />
        </label>
      )}
      {treated && treated.treatments.length > 0 && <Matrix treated={treated} />}
      {!now.parent && (
        <div className="mt-2 border-t border-hair pt-2">
          <AddProduct parent={now} />
        </div>
      )}
    </section>
  )
}

/** Zones down, methods across: what each rate does with it. */
function Matrix({ treated }: { treated: Treated }) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const here = bench?.quote.landing?.zone
  const methods = setup.methods.filter(({ id }) => treated.rates.some(({ method }) => method === id))
  const zones = setup.zones.filter(({ id }) => treated.rates.some(({ zone }) => zone === id))
  const name = (id: string | null) => byId(setup.treatments, id)?.name
  return (
    <Table className="mt-1 w-full border-t border-hair text-xs">
      <caption className="sr-only">What each rate does with it</caption>
      <thead>
        <tr className="text-left font-cond text-soft">
          <th className="font-medium">How it may travel</th>
          {methods.map((method) => (
            <th key={method.id} className="font-medium">
              {method.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {zones.map((zone) => (
          <tr key={zone.id} className="border-t border-hair align-top">
            <th
              className={`py-0.5 text-left ${zone.id === here ? 'border-l-4 border-ink pl-1 font-semibold' : 'font-normal'}`}
            >
              {zone.name}
            </th>
            {methods.map((method) => {
              const rate = treated.rates.find((found) => found.zone === zone.id && found.method === method.id)
              const bars = rate?.barred_by.map(name)
              return (
                <td key={method.id} className="py-0.5 pr-2">
                  {!rate ? (
                    <span className="text-soft">–</span>
                  ) : bars?.length ? (
                    <span className="text-brick">
                      no<span className="text-soft">: {list(bars)}</span>
                    </span>
                  ) : (
                    <>yes{rate.priced_by && <span className="text-soft">, {name(rate.priced_by)}</span>}</>
                  )}
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </Table>
  )
}
