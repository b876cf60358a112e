import type { Schemas, Setup } from '../api/client'

type Stored = Schemas['ShopParts']
export type Parts = { [Part in keyof Stored]-?: Required<NonNullable<Stored[Part]>> }
export type PartName = keyof Parts
export type Attributes = Record<string, string | true | undefined>

/** How parts behave where the merchant has said nothing else: as the core has it. */
const USUAL: Parts = {
  estimate: { ask: 'press', place: 'here', more: true },
  choice: { shown: 'list', unavailable: false, apart: true, groups: [] },
  milepost: { place: 'here', page: 'cart', bar: true },
  address: { boxes: true },
}

export function partsOf(stored: Stored | undefined): Parts {
  return {
    estimate: { ...USUAL.estimate, ...stored?.estimate },
    choice: { ...USUAL.choice, ...stored?.choice },
    milepost: { ...USUAL.milepost, ...stored?.milepost },
    address: { ...USUAL.address, ...stored?.address },
  }
}

/** What the settings come to in the tag: only what differs from the usual stands there. */
export function attributesOf(name: PartName, parts: Parts, { methods }: Setup): Attributes {
  const { estimate, choice, milepost, address } = parts
  const codes = (ids: string[]) => ids.flatMap((id) => methods.find((one) => one.id === id)?.code ?? [])
  switch (name) {
    case 'estimate':
      return {
        ask: estimate.ask === 'press' ? undefined : estimate.ask,
        place: estimate.place === 'here' ? undefined : estimate.place,
        more: estimate.more ? undefined : 'off',
      }
    case 'choice':
      return {
        shown: choice.shown === 'list' ? undefined : choice.shown,
        unavailable: choice.unavailable || undefined,
        apart: choice.apart ? undefined : 'off',
        groups: choice.groups.length
          ? JSON.stringify(
              choice.groups.map((group) => ({ name: group.name, methods: codes(group.methods) })),
            )
          : undefined,
      }
    case 'milepost':
      return {
        page: milepost.page,
        place: milepost.place === 'here' ? undefined : milepost.place,
        bar: milepost.bar ? undefined : 'off',
      }
    case 'address':
      return { boxes: address.boxes ? undefined : 'off' }
  }
}

/** What each part wants of the page besides. */
const OF_THE_PAGE: Record<PartName, { attributes: Attributes; within?: string }> = {
  estimate: { attributes: { key: 'gmp_…', sku: 'LOG-A4' } },
  choice: { attributes: { name: 'delivery', required: true, quote: '…' } },
  milepost: { attributes: { key: 'gmp_…', cart: '{"lines":[]}' } },
  address: { attributes: { key: 'gmp_…' }, within: '<!-- the form’s own fields -->' },
}

export function tagOf(name: PartName, settings: Attributes, origin: string): string {
  const { attributes, within } = OF_THE_PAGE[name]
  const said = Object.entries({ ...attributes, ...settings })
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => (value === true ? key : `${key}=${quoted(value!)}`))
  const inside = within ? `\n  ${within}\n` : ''
  return `<script src="${origin}/embed/${name}.js" defer></script>\n<gate-mile-${name} ${said.join(' ')}>${inside}</gate-mile-${name}>`
}

/** In the quotes that leave it readable. */
function quoted(value: string): string {
  const safe = value.replaceAll('&', '&amp;').replaceAll('<', '&lt;')
  return safe.includes('"') ? `'${safe.replaceAll("'", '&#39;')}'` : `"${safe}"`
}
