import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useLocation, useNavigate } from 'react-router'
import { api, answerOf, type Schemas, type Treatment } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake } from '../setup/queries'
import { useActs } from '../edits/acts'
import { AddByName } from '../forms/add-by-name'
import { formatsOf } from '../ui/format'
import { counted, list } from '../ui/locale'
import { useFindingsAbout } from '../findings/about'
import { findingSentence } from '../words/findings'
import { TreatmentEditor } from './treatment-editor'
import { limitsSentence, paysSentence, travelSentence } from '../words/goods'
import { Movers } from '../ui/row-buttons'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { Sorted, useSortedRow } from '../ui/sorted'
import { Badge, Doubt, Empty } from '../ui/said'

type Reach = Schemas['Reaches']['treatments'][number]

const SCOPES = [
  ['all', 'all'],
  ['class', 'on classes'],
  ['goods', 'on products and variants'],
] as const

/** Every treatment of the shop, so that nobody has to remember which product is an exception. */
export function Treatments() {
  const { setup } = useWorkshop()
  const acts = useActs()
  const { hash } = useLocation()
  const navigate = useNavigate()
  const [scope, setScope] = useState<(typeof SCOPES)[number][0]>('all')
  const { data } = useQuery({
    queryKey: ['reaches', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/treatments', { signal })),
    placeholderData: (previous) => previous,
  })
  const query = new URLSearchParams(hash.slice(1))
  const opened = query.get('treatment')
  const open = (id: string | null) =>
    void navigate(id ? `/goods/treatments#treatment=${id}` : '/goods/treatments', { replace: true })
  const finder = useFinder()
  const shown = setup.treatments.filter(
    (treatment) =>
      (scope === 'all' || (scope === 'class' ? treatment.classes.length > 0 : treatment.products > 0)) &&
      (treatment.id === opened || finder.finds(treatment.name ?? '')),
  )
  /** Past those that are not shown. */
  const move = (id: string, name: string, by: number) => {
    const placeOf = (wanted: string | undefined) => setup.treatments.findIndex((one) => one.id === wanted)
    const over = shown[shown.findIndex((one) => one.id === id) + by]
    acts.move('treatments', id, name, placeOf(over?.id) - placeOf(id))
  }
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        A treatment says how goods leave the ordinary rates: what they pay, and how they may travel. It sits
        on variants, products and classes. The price of the variant’s comes first, then the product’s, then
        the class’s; within one the order of this list. Restrictions add up.
      </p>
      <div className="mb-2 flex gap-1" role="group" aria-label="Which treatments">
        {SCOPES.map(([value, name]) => (
          <Button
            look="bare"
            key={value}
            aria-pressed={scope === value}
            className={`min-h-[24px] rounded-xs border px-2 ${scope === value ? 'border-ink bg-ink text-white' : 'border-edge bg-white'}`}
            onClick={() => setScope(value)}
          >
            {name}
          </Button>
        ))}
        <Finder
          of={finder}
          label="Find a treatment"
          placeholder="find by name"
          className="ml-3 w-48"
          count={setup.treatments.length}
        />
      </div>
      <Sorted items={shown} move={move}>
        <ul aria-label="Treatments">
          {shown.map((treatment) => (
            <Row
              key={treatment.id}
              treatment={treatment}
              reach={data?.treatments.find(({ id }) => id === treatment.id)}
              open={opened === treatment.id}
              focus={opened === treatment.id ? query.get('field') : null}
              toggle={() => open(opened === treatment.id ? null : treatment.id)}
            />
          ))}
        </ul>
      </Sorted>
      {shown.length === 0 && (
        <Empty>
          {setup.treatments.length === 0
            ? 'There are no treatments yet: everything goes with the cart, by any method.'
            : 'None of these.'}
        </Empty>
      )}
      <AddByName
        kind="treatments"
        what="treatment"
        inputId="new-treatment"
        added={(made) => {
          setScope('all')
          open(made.id)
        }}
      />
    </div>
  )
}

interface RowProps {
  treatment: Treatment
  reach: Reach | undefined
  open: boolean
  focus: string | null
  toggle: () => void
}

function Row({ treatment, reach, open, focus, toggle }: RowProps) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const { row, grip } = useSortedRow(treatment)
  const formats = formatsOf(setup.store)
  const findings = awake(useFindingsAbout('goods')).filter(({ setting }) => setting?.id === treatment.id)
  const index = setup.treatments.findIndex(({ id }) => id === treatment.id)
  const classes = setup.classes.filter(({ id }) => treatment.classes.includes(id))
  const pays = paysSentence(treatment, formats, setup)
  const travels = travelSentence(treatment, setup)
  const limits = limitsSentence(treatment, setup)
  const on = [
    ...classes.map(({ name }) => `class ${name}`),
    ...(treatment.products
      ? [counted(treatment.products, 'product or variant', 'products and variants')]
      : []),
  ]
  return (
    <li
      {...row}
      className={`border-t border-l-4 border-t-hair ${open ? 'border-l-ink bg-white' : 'border-l-transparent bg-paper'}`}
    >
      <div className="flex items-start gap-2 py-1.5 pl-1">
        {grip}
        <div className="min-w-0 flex-1">
          <Button look="opens" aria-expanded={open} onClick={toggle}>
            {treatment.name}
          </Button>
          {!treatment.active && (
            <span className="ml-2">
              <Badge>off</Badge>
            </span>
          )}
          <span className="ml-3 text-soft">{list(on) || 'sits on nothing yet'}</span>
          {reach && reach.count > 0 && (
            <>
              {' '}
              <Link className="underline underline-offset-2" to={`/goods#treatment=${treatment.id}`}>
                reaches {counted(reach.count, 'row')}
              </Link>
              <span className="text-xs text-soft">
                {': '}
                {list(reach.names)}
                {reach.count > reach.names.length && ' …'}
              </span>
            </>
          )}
          <dl className="mt-0.5 grid grid-cols-[4.5rem_1fr] gap-x-2">
            {pays && (
              <>
                <dt className="font-cond text-soft">Pays</dt>
                <dd>{pays}</dd>
              </>
            )}
            {travels && (
              <>
                <dt className="font-cond text-soft">Travels</dt>
                <dd>{travels}</dd>
              </>
            )}
            {limits && (
              <>
                <dt className="font-cond text-soft">Holds</dt>
                <dd>{limits}</dd>
              </>
            )}
          </dl>
          {findings.map((finding, at) => {
            const { text, mend } = findingSentence(finding, setup, formats)
            const zone = byId(setup.zones, finding.zone)
            return (
              <Doubt key={at}>
                {zone && `${zone.name}: `}
                {text} <span className="text-soft">{mend}</span>
              </Doubt>
            )
          })}
        </div>
        <span className="flex">
          <Movers
            name={treatment.name}
            at={index}
            of={setup.treatments.length}
            move={(by) => acts.move('treatments', treatment.id, treatment.name ?? '', by)}
          />
        </span>
      </div>
      {open && <TreatmentEditor treatment={treatment} focus={focus} close={toggle} />}
    </li>
  )
}
