import type { Plan } from '../api/client'
import { useWorkshop } from '../api/setup'
import { formatsOf } from '../ui/format'
import { newSchedule, type ClassPrice } from './draft'
import { ScheduleEditor } from './schedule-editor'

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
  const store = setup.store!
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
        <select
          className="field"
          aria-label={`${label}: how ${name} is charged`}
          value={item.carried === false ? 'no' : (item.charge ?? 'once')}
          onChange={(event) => {
            const { value } = event.target
            const schedule = item.schedule ?? newSchedule('flat', store)
            put(
              update(
                value === 'no'
                  ? { ...item, carried: false }
                  : { ...item, carried: true, charge: value as 'once' | 'unit', schedule },
              ),
            )
          }}
        >
          <option value="once">once for all of it</option>
          <option value="unit">for each unit</option>
          <option value="no">not carried</option>
        </select>
        {place === '/others' && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={item.unclassed ?? false}
              onChange={(event) => put(update({ ...item, unclassed: event.target.checked }))}
            />
            goods without a class too
          </label>
        )}
        <button type="button" className="quiet" onClick={() => put(update(null))}>
          Leave it out<span className="sr-only">: {name}</span>
        </button>
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
          setup.classes.find(({ id }) => id === item.class)?.name ?? 'a class that is gone',
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
          <select
            className="field"
            aria-label={`${label}: a price for a class`}
            value=""
            onChange={(event) =>
              change((old) => ({
                ...old,
                classes: [
                  ...(old.classes ?? []),
                  { class: event.target.value, charge: 'once', schedule: { kind: 'flat', amount: '' } },
                ],
              }))
            }
          >
            <option value="">A price for a class …</option>
            {free.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )}
        {!others && (
          <button
            type="button"
            className="quiet"
            onClick={() =>
              change((old) => ({
                ...old,
                others: { charge: 'once', schedule: { kind: 'flat', amount: '' }, unclassed: true },
              }))
            }
          >
            A price for everything else
          </button>
        )}
      </span>
    </div>
  )
}
