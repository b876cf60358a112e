import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { api, answerOf, type Schemas, type Treatment } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { GoodsSearch } from '../forms/goods-search'
import { formatsOf } from '../ui/format'
import { Select } from '../ui/select'
import { Button } from '../ui/button'

/** What a treatment sits on: classes, products and variants, put there and taken off one by one. */
export function Targets({ treatment }: { treatment: Treatment }) {
  const { setup, send } = useWorkshop()
  const { act } = useActs()
  const { data } = useQuery({
    queryKey: ['targets', treatment.id, setup.revision],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/treatments/{id}/targets', { params: { path: { id: treatment.id } }, signal })),
    placeholderData: (previous) => previous,
  })
  const change = (how: 'add' | 'remove', goods: Schemas['Targets']) =>
    act(
      `/api/treatments/${treatment.id}`,
      `targets ${how} ${JSON.stringify(goods)}`,
      `What ${treatment.name} sits on`,
      (_, { lock_version = 0 }) =>
        send((to) =>
          to.POST('/api/treatments/{id}/targets', {
            params: { path: { id: treatment.id } },
            body: { lock_version, [how]: goods },
          }),
        ),
      treatment,
    )
  const on = setup.classes.filter(({ id }) => treatment.classes.includes(id))
  const free = setup.classes.filter(({ id }) => !treatment.classes.includes(id))
  const left = (data?.total ?? 0) - (data?.products.length ?? 0)
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {on.map(({ id, name }) => (
        <Chip key={id} name={`class ${name}`} remove={() => change('remove', { classes: [id] })} />
      ))}
      {data?.products.map(({ id, name, sku }) => (
        <Chip key={id} name={name} title={sku} remove={() => change('remove', { products: [id] })} />
      ))}
      {left > 0 && <span className="text-soft">and {left} more</span>}
      {free.length > 0 && (
        <Select
          label={`Put ${treatment.name} on a class`}
          placeholder={'a class …'}
          value={''}
          choices={free.map(({ id, name }) => [id, name] as const)}
          choose={(value) => change('add', { classes: [value] })}
        />
      )}
      <span className="w-60">
        <GoodsSearch
          id={`targets-${treatment.id}`}
          label={`Put ${treatment.name} on goods, by name or SKU`}
          placeholder="a product or variant …"
          formats={formatsOf(setup.store)}
          take={(product) => change('add', { products: [product.id] })}
        />
      </span>
    </div>
  )
}

function Chip({ name, title, remove }: { name: string; title?: string; remove: () => void }) {
  return (
    <span className="inline-flex items-center border border-edge bg-paper pl-1.5" data-tip={title}>
      {name}
      <Button look="quiet" className="min-w-[24px] px-0" aria-label={`Take it off ${name}`} onClick={remove}>
        <X size={12} aria-hidden />
      </Button>
    </span>
  )
}
