import type { Charge, OwnPrice, Schemas, Treatment } from '../api/client'

/** A charge as it is typed: every figure stays the text that it was. */
export interface DraftCharge {
  kind: Charge['kind']
  amount: string
  steps: { from: string; amount: string }[]
}

export interface DraftPrice {
  kind: 'none' | OwnPrice['kind']
  plus: string
  charge: DraftCharge
  byMethod: { method: string; charge: DraftCharge }[]
  together: boolean
}

export const BLANK_CHARGE: DraftCharge = { kind: 'unit', amount: '', steps: [{ from: '1', amount: '' }] }

function draftCharge(charge: Charge | undefined): DraftCharge {
  if (!charge) return BLANK_CHARGE
  const steps = (charge.steps ?? []).map(({ from, amount }) => ({ from: String(from ?? ''), amount }))
  return {
    kind: charge.kind,
    amount: charge.amount ?? '',
    steps: steps.length ? steps : [{ from: '1', amount: charge.amount ?? '' }],
  }
}

export function draftPrice(price: OwnPrice | null | undefined): DraftPrice {
  return {
    kind: price?.kind ?? 'none',
    plus: price?.plus ?? '',
    charge: draftCharge(price?.charge),
    byMethod: (price?.by_method ?? []).map(({ method, charge }) => ({ method, charge: draftCharge(charge) })),
    together: price?.together ?? false,
  }
}

function chargeOf(draft: DraftCharge): Charge {
  if (draft.kind === 'unit') return { kind: 'unit', amount: draft.amount.trim() }
  return {
    kind: draft.kind,
    steps: draft.steps.map(({ from, amount }) => ({
      from: /^\d{1,7}$/.test(from.trim()) ? Number(from.trim()) : null,
      amount: amount.trim(),
    })),
  }
}

export function priceOf(draft: DraftPrice): OwnPrice | null {
  if (draft.kind === 'none') return null
  if (draft.kind === 'along')
    return { kind: 'along', ...(draft.plus.trim() ? { plus: draft.plus.trim() } : {}) }
  const own = draft.byMethod.map(({ method, charge }) => ({ method, charge: chargeOf(charge) }))
  return {
    kind: 'apart',
    charge: chargeOf(draft.charge),
    ...(own.length ? { by_method: own } : {}),
    together: draft.together,
  }
}

/** A treatment as the bench previews it. */
export function previewOf(treatment: Treatment): Schemas['TreatmentPreview'] {
  const { id, name, active, zones, methods, price, travel } = treatment
  return {
    id: id,
    name: name,
    active: active ?? true,
    zones: zones ?? null,
    methods: methods ?? null,
    price: price ?? null,
    travel: travel ?? null,
  }
}
