import { Trash2 } from 'lucide-react'
import { call, type Coupon, type Group } from '../api/client'
import { useWorkshop } from '../api/setup'
import { moved, useTold } from '../board/edits'
import { AddByName } from '../ui/add-by-name'
import { Field } from '../ui/field'
import { counted } from '../ui/format'
import { Switch } from '../ui/switch'
import { Movers, Remover } from '../ui/row-buttons'

/** How many offers and rules name something. */
function useUses() {
  const { setup } = useWorkshop()
  const text = JSON.stringify([setup.offers, setup.rules].map((items) => items.map((item) => item)))
  return (id: string) => {
    const used = [...setup.offers, ...setup.rules].filter((item) => JSON.stringify(item).includes(`"${id}"`))
    return text.includes(`"${id}"`)
      ? `named by ${counted(used.length, 'offer or rule', 'offers and rules')}`
      : 'not named yet'
  }
}

/** The customer groups and coupons that offers and rules can name. */
export function Registers() {
  const { setup, edit } = useWorkshop()
  return (
    <div className="grid max-w-5xl gap-8 pb-8 xl:grid-cols-[2fr_3fr]">
      <section aria-label="Customer groups">
        <h2 className="text-lg">Customer groups</h2>
        <p className="mb-1 text-soft">A cart names one, or none. Capitals do not matter.</p>
        <ul>
          {setup.groups.map((group, at) => (
            <GroupRow key={group.id} group={group} at={at} />
          ))}
        </ul>
        {setup.groups.length === 0 && <p className="border-t border-hair py-2">There are none yet.</p>}
        <AddByName
          what="customer group"
          inputId="new-group"
          add={(name) => edit(() => call('POST', '/api/groups', { name }))}
        />
      </section>
      <section aria-label="Coupons">
        <h2 className="text-lg">Coupons</h2>
        <p className="mb-1 text-soft">
          Codes that shoppers type. What one gives is said by the offers that ask for it.
        </p>
        <ul>
          {setup.coupons.map((coupon) => (
            <CouponRow key={coupon.id} coupon={coupon} />
          ))}
        </ul>
        {setup.coupons.length === 0 && <p className="border-t border-hair py-2">There are none yet.</p>}
        <AddByName
          what="coupon"
          inputId="new-coupon"
          add={(code) => edit(() => call('POST', '/api/coupons', { code }))}
        />
      </section>
    </div>
  )
}

function GroupRow({ group, at }: { group: Group; at: number }) {
  const { setup, edit } = useWorkshop()
  const told = useTold()
  const uses = useUses()
  const move = (by: number) => {
    const order = moved(setup.groups, at, by)
    if (order) void told('', () => call('PUT', '/api/groups/order', { ids: order.map(({ id }) => id) }))
  }
  return (
    <li className="flex items-start gap-2 border-t border-hair py-1">
      <Field
        label={`Name of ${group.name}`}
        hideLabel
        cell
        width="w-40"
        value={group.name ?? ''}
        version={group.lock_version}
        pointer="/name"
        save={(name, version) =>
          edit(() => call('PATCH', `/api/groups/${group.id}`, { name, lock_version: version }))
        }
        read={(current) => (current as Group).name ?? ''}
      />
      <span className="flex-1 pt-1.5 text-soft">{uses(group.id)}</span>
      <Movers name={group.name} at={at} of={setup.groups.length} move={move} />
      <Remover
        name={group.name}
        remove={() =>
          told(`Removed ${group.name}`, () =>
            call('DELETE', `/api/groups/${group.id}?lock_version=${group.lock_version}`),
          )
        }
      />
    </li>
  )
}

function CouponRow({ coupon }: { coupon: Coupon }) {
  const { edit } = useWorkshop()
  const told = useTold()
  const uses = useUses()
  const patch = (fields: object, version = coupon.lock_version) =>
    call('PATCH', `/api/coupons/${coupon.id}`, { ...fields, lock_version: version })
  const field = (
    name: 'code' | 'note' | 'starts' | 'ends',
    label: string,
    width: string,
    placeholder = '',
  ) => (
    <Field
      label={`${label} of ${coupon.code}`}
      hideLabel
      cell
      width={width}
      placeholder={placeholder}
      value={coupon[name] ?? ''}
      version={coupon.lock_version}
      pointer={`/${name}`}
      save={(typed, version) => edit(() => patch({ [name]: typed }, version))}
      read={(current) => (current as Coupon)[name] ?? ''}
    />
  )
  return (
    <li className="border-t border-hair py-1">
      <span className="flex flex-wrap items-start gap-2">
        {field('code', 'Code', 'w-36')}
        {field('note', 'Note', 'w-56', 'a note for yourself')}
        <Switch
          label={`${coupon.code} on`}
          on={coupon.active ?? true}
          change={(active) => void told('', () => patch({ active }))}
        />
        <button
          type="button"
          className="quiet ml-auto px-1"
          aria-label={`Remove ${coupon.code}`}
          onClick={() =>
            void told(`Removed ${coupon.code}`, () =>
              call('DELETE', `/api/coupons/${coupon.id}?lock_version=${coupon.lock_version}`),
            )
          }
        >
          <Trash2 size={13} aria-hidden />
        </button>
      </span>
      <span className="flex flex-wrap items-center gap-2 text-soft">
        taken from {field('starts', 'Start', 'w-40', 'now, or 2027-05-01T09:00')} until
        {field('ends', 'End', 'w-40', 'for good')} {uses(coupon.id)}
      </span>
    </li>
  )
}
