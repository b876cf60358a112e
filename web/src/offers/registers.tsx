import type { Coupon, Group } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { AddByName } from '../forms/add-by-name'
import { Field } from '../forms/field'
import { counted } from '../ui/locale'
import { Switch } from '../ui/switch'
import { Movers, Remover } from '../ui/row-buttons'
import { Sorted, useSortedRow } from '../ui/sorted'

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
  const { setup } = useWorkshop()
  const acts = useActs()
  return (
    <div className="grid max-w-5xl gap-8 pb-8 xl:grid-cols-[2fr_3fr]">
      <section aria-label="Customer groups">
        <h2 className="text-lg">Customer groups</h2>
        <p className="mb-1 text-soft">A cart names one, or none. Capitals do not matter.</p>
        <Sorted items={setup.groups} move={(id, name, by) => acts.move('groups', id, name, by)}>
          <ul>
            {setup.groups.map((group, at) => (
              <GroupRow key={group.id} group={group} at={at} />
            ))}
          </ul>
        </Sorted>
        {setup.groups.length === 0 && <p className="border-t border-hair py-2">There are none yet.</p>}
        <AddByName kind="groups" what="customer group" inputId="new-group" />
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
        <AddByName kind="coupons" what="coupon" inputId="new-coupon" draft={(code) => ({ code })} />
      </section>
    </div>
  )
}

function GroupRow({ group, at }: { group: Group; at: number }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const uses = useUses()
  const { row, grip } = useSortedRow(group)
  return (
    <li {...row} className="flex items-start gap-2 border-t border-hair bg-paper py-1">
      {grip}
      <Field
        of={useEdited('groups', group)}
        at="name"
        label={`Name of ${group.name}`}
        hideLabel
        cell
        width="w-40"
      />
      <span className="flex-1 pt-1.5 text-soft">{uses(group.id)}</span>
      <Movers
        name={group.name}
        at={at}
        of={setup.groups.length}
        move={(by) => acts.move('groups', group.id, group.name, by)}
      />
      <Remover name={group.name} remove={() => acts.remove('groups', group, group.name)} />
    </li>
  )
}

function CouponRow({ coupon }: { coupon: Coupon }) {
  const acts = useActs()
  const uses = useUses()
  const edited = useEdited('coupons', coupon)
  const field = (
    name: 'code' | 'note' | 'starts' | 'ends',
    label: string,
    width: string,
    placeholder = '',
  ) => (
    <Field
      of={edited}
      at={name}
      label={`${label} of ${coupon.code}`}
      hideLabel
      cell
      width={width}
      placeholder={placeholder}
    />
  )
  return (
    <li className="border-t border-hair py-1">
      <span className="flex flex-wrap items-start gap-2">
        {field('code', 'Code', 'w-36')}
        {field('note', 'Note', 'w-56', 'a note for yourself')}
        <Switch
          label={`${coupon.code} on`}
          on={edited.doc.active ?? true}
          change={(active) => edited.put('active', `${coupon.code} on`, () => ({ active }))}
        />
        <span className="ml-auto">
          <Remover name={coupon.code} remove={() => acts.remove('coupons', coupon, coupon.code)} />
        </span>
      </span>
      <span className="flex flex-wrap items-center gap-2 text-soft">
        taken from {field('starts', 'Start', 'w-40', 'now, or 2027-05-01T09:00')} until
        {field('ends', 'End', 'w-40', 'for good')} {uses(coupon.id)}
      </span>
    </li>
  )
}
