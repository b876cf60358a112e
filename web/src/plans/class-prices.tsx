import { byId } from '../api/by-id'
import type { Plan } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { formatsOf } from '../ui/format'
import { newSchedule } from './draft'
import { type ClassPrice } from '../words/measures'
import { ScheduleEditor } from './schedule-editor'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'

interface Props {
  label: string
  plan: Plan
  put: (plan: Plan) => void
  change: (update: (old: Plan) => Plan) => void
  commit: (plan?: Plan) => void
  errorAt: (pointer: string) => string | undefined
}

/** A schedule for each class, one for everything else; each charged once or for each unit, or not carried. */
export function ClassPrices({ label, plan, put, change, commit, errorAt }: Props) {
  const { setup } = useWorkshop()
  const store = setup.store
  const formats = formatsOf(store)
  const list = plan.classes ?? []
  const free = setup.classes.filter(({ id }) => !list.some((item) => item.class === id))
  const others = plan.others
  const setClass = (at: number, item: ClassPrice | null): Plan => ({
    ...plan,
    classes: item
      ? list.map((other, index) => (index === at ? item : other))
      : list.filter((_, index) => index !== at),
  })
  const row = (
    name: string,
    item: ClassPrice,
    place: string,
    update: (next: ClassPrice | null) => Plan,
    path: (old: Plan, next: (item: ClassPrice) => ClassPrice) => Plan,
  ) => (
    <div key={place} className="border-l-2 border-edge pl-3">
      <p className="mb-1 flex flex-wrap items-center gap-3">
        <b>{name}</b>
        <Select
          label={`${label}: how ${name} is charged`}
          value={item.carried === false ? 'no' : (item.charge ?? 'once')}
          choices={[
            ['once', 'once for all of it'],
            ['unit', 'for each unit'],
            ['no', 'not carried'],
          ]}
          choose={(value) => {
            const schedule = item.schedule ?? newSchedule('flat', store)
            put(
              update(
                value === 'no'
                  ? { ...item, carried: false }
                  : { ...item, carried: true, charge: value, schedule },
              ),
            )
          }}
        />
        {place === '/others' && (
          <Tick on={item.unclassed ?? false} change={(on) => put(update({ ...item, unclassed: on }))}>
            goods without a class too
          </Tick>
        )}
        <Button look="quiet" onClick={() => put(update(null))}>
          Leave it out<span className="sr-only">: {name}</span>
        </Button>
      </p>
      {item.carried !== false && (
        <ScheduleEditor
          label={`${label}, ${name}`}
          schedule={item.schedule ?? { kind: 'flat', amount: '' }}
          store={store}
          formats={formats}
          change={(next) =>
            change((old) =>
              path(old, (one) => ({ ...one, schedule: next(one.schedule ?? { kind: 'flat', amount: '' }) })),
            )
          }
          commit={(schedule) => commit(schedule ? update({ ...item, schedule }) : undefined)}
          errorAt={(below) => errorAt(`${place}/schedule${below}`)}
        />
      )}
    </div>
  )
  return (
    <div className="flex flex-col gap-2">
      {list.map((item, at) =>
        row(
          byId(setup.classes, item.class)?.name ?? 'a class that is gone',
          item,
          `/classes/${at}`,
          (next) => setClass(at, next),
          (old, next) => ({
            ...old,
            classes: (old.classes ?? []).map((one, index) => (index === at ? next(one) : one)),
          }),
        ),
      )}
      {others
        ? row(
            'Everything else',
            others,
            '/others',
            (next) => {
              const rest = { ...plan }
              delete rest.others
              return next ? { ...rest, others: next } : rest
            },
            (old, next) => ({ ...old, others: next(old.others ?? {}) }),
          )
        : null}
      <span className="flex flex-wrap gap-2">
        {free.length > 0 && (
          <Select
            label={`${label}: a price for a class`}
            placeholder={'A price for a class …'}
            value={''}
            choices={free.map(({ id, name }) => [id, name] as const)}
            choose={(value) =>
              change((old) => ({
                ...old,
                classes: [
                  ...(old.classes ?? []),
                  { class: value, charge: 'once', schedule: { kind: 'flat', amount: '' } },
                ],
              }))
            }
          />
        )}
        {!others && (
          <Button
            look="quiet"
            onClick={() =>
              change((old) => ({
                ...old,
                others: { charge: 'once', schedule: { kind: 'flat', amount: '' }, unclassed: true },
              }))
            }
          >
            A price for everything else
          </Button>
        )}
      </span>
    </div>
  )
}
