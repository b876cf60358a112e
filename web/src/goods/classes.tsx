import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link, useLocation } from 'react-router'
import { api, answerOf, type Schemas, type ShippingClass } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { useAct } from '../edits/use-act'
import { AddByName } from '../forms/add-by-name'
import { Field } from '../forms/field'
import { counted, list } from '../ui/locale'
import { Movers, Remover } from '../ui/row-buttons'
import { Table } from '../ui/table'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { SomeOf } from '../ui/some-of'
import { Sorted, useSortedRow } from '../ui/sorted'
import { Empty, Panel } from '../ui/said'

type Count = Schemas['ClassCounts']['classes'][number]

/** Shipping classes: products that ship alike, and where each class is used. */
export function Classes() {
  const { setup } = useWorkshop()
  const { hash } = useLocation()
  const { data } = useQuery({
    queryKey: ['classes', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/classes', { signal })),
    placeholderData: (previous) => previous,
  })
  const acts = useActs()
  const finder = useFinder()
  const focused = new URLSearchParams(hash.slice(1)).get('class')
  useEffect(() => {
    if (focused) document.getElementById(`class-${focused}-name`)?.focus()
  }, [focused])
  return (
    <div>
      <p className="mb-2 text-soft">
        A class groups products that ship alike. A product has one class or none; a variant has its product’s,
        unless it says another.
      </p>
      <Finder
        of={finder}
        label="Find a class"
        placeholder="find by name"
        className="mb-1.5 w-64"
        count={setup.classes.length}
      />
      {setup.classes.length > 0 && (
        <Sorted items={setup.classes} move={(id, name, by) => acts.move('classes', id, name, by)}>
          <Table>
            <thead>
              <tr className="text-left font-cond text-soft">
                <th className="py-1 font-medium">Class</th>
                <th className="font-medium">What it is for</th>
                <th className="font-medium">Goods in it</th>
                <th className="font-medium">Used by</th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {setup.classes
                .filter(({ name }) => finder.finds(name ?? ''))
                .map((item) => (
                  <Row
                    key={item.id}
                    item={item}
                    index={setup.classes.indexOf(item)}
                    count={data?.classes.find(({ id }) => id === item.id)}
                  />
                ))}
            </tbody>
          </Table>
        </Sorted>
      )}
      {setup.classes.length === 0 && (
        <Empty>There are no classes yet. Add the first where some goods ship unlike the others.</Empty>
      )}
      <AddByName kind="classes" what="class" inputId="new-class" />
    </div>
  )
}

function Row({ item, index, count }: { item: ShippingClass; index: number; count: Count | undefined }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const moving = useAct('/api/products/bulk', `class ${item.id}`, `Move goods out of ${item.name}`)
  const edited = useEdited('classes', item)
  const { row, grip } = useSortedRow(item)
  const [leaving, setLeaving] = useState(false)
  const goods = [
    count?.products && counted(count.products, 'product'),
    count?.variants && counted(count.variants, 'variant'),
  ].filter(Boolean)
  const filled = (count?.products ?? 0) + (count?.variants ?? 0)
  const field = (name: 'name' | 'description', label: string, width: string) => (
    <Field
      of={edited}
      at={name}
      label={`${label} of ${item.name}`}
      hideLabel
      cell
      inputId={`class-${item.id}-${name}`}
      width={width}
      placeholder={name === 'description' ? 'say what belongs in it' : ''}
    />
  )
  const shift = (to: string) =>
    moving.run(
      (door) =>
        door.POST('/api/products/bulk', {
          body: { scope: { class: item.id }, set: { class: to === 'none' ? null : to }, store: true },
        }),
      undefined,
      (done) => `Moved ${counted(done.changed, 'row')} out of ${item.name}`,
    )
  const remove = (to: string) => acts.remove('classes', item, `class ${item.name}`, { moveTo: to })
  const others = setup.classes.filter(({ id }) => id !== item.id)
  const treatments = setup.treatments.filter(({ id }) => item.treatments.includes(id))
  const rates = setup.rates.filter(({ plan, cost }) =>
    [plan, cost].some((prices) => prices?.classes?.some((price) => price.class === item.id)),
  )
  const used = [
    ...treatments.map(({ id, name }) => ({ id, name, path: `/goods/treatments#treatment=${id}` })),
    ...rates.map((rate) => ({
      id: rate.id,
      name: `${rate.name ?? byId(setup.methods, rate.method)?.name}, ${byId(setup.zones, rate.zone)?.name}`,
      path: `/#rate=${rate.id}&field=plan`,
    })),
  ]
  return (
    <>
      <tr {...row} className="border-t border-hair bg-paper align-top">
        <td className="py-1 pr-3">{field('name', 'Name', 'w-36')}</td>
        <td className="py-1 pr-3">{field('description', 'Description', 'w-full min-w-56')}</td>
        <td className="py-2 pr-3 whitespace-nowrap">
          {count && filled > 0 ? (
            <Link className="underline underline-offset-2" to={`/goods#class=${item.id}`}>
              {list(goods)}
            </Link>
          ) : (
            <span className="text-ochre">{count ? 'none' : '…'}</span>
          )}
        </td>
        <td className="py-2 pr-3">
          <SomeOf
            items={used.map(({ id, name, path }) => (
              <Link key={id} className="underline underline-offset-2" to={path}>
                {name}
              </Link>
            ))}
          />
          {used.length === 0 && <span className="text-soft">nothing yet</span>}
        </td>
        <td className="py-1 text-right whitespace-nowrap">
          {filled > 0 && (
            <Select
              label={`Move the goods of ${item.name} to another class`}
              placeholder={'Move its goods to …'}
              value={''}
              choices={[...others.map(({ id, name }) => [id, name] as const), ['none', 'no class']]}
              choose={(value) => shift(value)}
            />
          )}
          {grip}
          <Movers
            name={item.name}
            at={index}
            of={setup.classes.length}
            move={(by) => acts.move('classes', item.id, item.name, by)}
          />
          <Remover
            name={item.name}
            open={leaving}
            remove={() => (filled > 0 || used.length > 0 ? setLeaving(!leaving) : remove(''))}
          />
        </td>
      </tr>
      {leaving && (
        <tr>
          <td colSpan={5} className="pb-2">
            <Panel tone="doubt">
              <p>
                Removing {item.name}
                {treatments.length > 0 &&
                  ` takes ${list(treatments.map(({ name }) => `“${name}”`))} off its goods`}
                {rates.length > 0 &&
                  `${treatments.length > 0 ? ', and' : ''} takes its price out of ${counted(rates.length, 'rate')}`}
                {used.length > 0 && filled > 0 && ', and'}
                {filled > 0 && ` leaves ${list(goods)} without a class`}.{filled > 0 && ' Where do they go?'}
              </p>
              <p className="mt-1.5 flex flex-wrap gap-1.5">
                {filled > 0 &&
                  others.map(({ id, name }) => (
                    <Button key={id} onClick={() => remove(id)}>
                      To {name}
                    </Button>
                  ))}
                <Button onClick={() => remove('')}>{filled > 0 ? 'To no class' : 'Remove it'}</Button>
                <Button look="quiet" onClick={() => setLeaving(false)}>
                  Keep {item.name}
                </Button>
              </p>
            </Panel>
          </td>
        </tr>
      )}
    </>
  )
}
