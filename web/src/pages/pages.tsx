import type { ComponentType, ReactNode } from 'react'
import { Board } from '../board/board'
import type { Section } from '../findings/about'
import { lazily } from '../ui/lazily'

/** A part of a page, or the whole page where it has no parts. */
export interface Part {
  at: string
  name: string
  /** What the palette calls it, where that is more than its name. */
  found?: string
  open: ComponentType<{ meanwhile?: ReactNode }> & { prepare?: () => void }
  /** The findings of this section are counted beside its name. */
  counts?: Section
}

/** A page: in the bar, in the palette, in the title, and where its address leads. */
export interface Page {
  at: string
  name: string
  /** Not in the bar between the others: it has a place of its own there. */
  apart?: boolean
  /** What the palette calls it, where that is more than its name. */
  found?: string
  /** The first one stands at the page's own address. A page without a heading of its own has one part without a name. */
  parts: readonly [Part, ...Part[]]
  /** Whether the page's name and its parts stand above what it shows. */
  headed?: boolean
}

const findings = (section: Section, none: string, more?: ComponentType): Part => ({
  at: `/${section}/findings`,
  name: 'Findings',
  counts: section,
  open: lazily(async () => {
    const { FindingsPart } = await import('../findings/part')
    const More = more
    return function Found() {
      return <FindingsPart section={section} none={none} more={More && <More />} />
    }
  }),
})

const alone = (at: string, name: string, open: Part['open']): Page => ({
  at,
  name,
  parts: [{ at, name, open }],
})

const BOARD = alone('/', 'Board', Board)

/** Every page of the workbench, in the order of the bar. */
export const PAGES: readonly Page[] = [
  BOARD,
  alone(
    '/zones',
    'Zones',
    lazily(async () => (await import('../zones/zones')).Zones),
  ),
  {
    at: '/goods',
    name: 'Goods',
    headed: true,
    parts: [
      {
        at: '/goods',
        name: 'Catalogue',
        open: lazily(async () => (await import('../goods/catalogue')).Catalogue),
      },
      {
        at: '/goods/classes',
        name: 'Classes',
        open: lazily(async () => (await import('../goods/classes')).Classes),
      },
      {
        at: '/goods/treatments',
        name: 'Treatments',
        open: lazily(async () => (await import('../goods/treatments')).Treatments),
      },
      { at: '/goods/boxes', name: 'Boxes', open: lazily(async () => (await import('../goods/boxes')).Boxes) },
      {
        at: '/goods/csv',
        name: 'CSV',
        found: 'CSV in and out',
        open: lazily(async () => (await import('../goods/csv')).GoodsCsv),
      },
      findings(
        'goods',
        'Nothing found: every product has a weight and a way to travel, and every treatment says something.',
      ),
    ],
  },
  {
    at: '/rates',
    name: 'Rates',
    headed: true,
    parts: [
      {
        at: '/rates',
        name: 'All rates',
        open: lazily(async () => (await import('../rates/rate-list')).RateList),
      },
      {
        at: '/rates/classes',
        name: 'By class',
        open: lazily(async () => (await import('../rates/by-class')).ByClass),
      },
      {
        at: '/rates/tariff',
        name: 'Tariff',
        open: lazily(async () => (await import('../rates/tariff')).Tariff),
      },
      {
        at: '/rates/csv',
        name: 'CSV',
        found: 'CSV in and out',
        open: lazily(async () => (await import('../rates/rates-csv')).RatesCsv),
      },
      findings(
        'rates',
        'Nothing found: every zone has a rate, and no rate has a hole or gives anything away.',
        lazily(async () => (await import('../carriers/survey')).Survey),
      ),
    ],
  },
  alone(
    '/methods',
    'Methods',
    lazily(async () => (await import('../methods/methods')).Methods),
  ),
  {
    at: '/offers',
    name: 'Offers',
    headed: true,
    parts: [
      {
        at: '/offers',
        name: 'All offers',
        open: lazily(async () => (await import('../offers/offer-list')).OfferList),
      },
      {
        at: '/offers/registers',
        name: 'Groups and coupons',
        found: 'customer groups and coupons',
        open: lazily(async () => (await import('../offers/registers')).Registers),
      },
      {
        at: '/offers/pages',
        name: 'On the shop’s pages',
        found: 'mileposts on the shop’s pages',
        open: lazily(async () => (await import('../shop-pages/shop-pages')).ShopPages),
      },
      findings('offers', 'Nothing found: every offer can be reached, and none gives more than it brings.'),
    ],
  },
  {
    at: '/rules',
    name: 'Rules',
    headed: true,
    parts: [
      {
        at: '/rules',
        name: 'All rules',
        open: lazily(async () => (await import('../rules/rule-list')).RuleList),
      },
      {
        at: '/rules/order',
        name: 'What comes first',
        open: lazily(async () => (await import('../rules/order-page')).OrderPage),
      },
      findings(
        'rules',
        'Nothing found: every rule can hold, none hides or contradicts another, and every cart keeps a method.',
      ),
    ],
  },
  alone(
    '/carriers',
    'Carriers',
    lazily(async () => (await import('../carriers/carriers')).Carriers),
  ),
  {
    at: '/proofs',
    name: 'Proofs',
    headed: true,
    parts: [
      {
        at: '/proofs',
        name: 'Saved carts',
        open: lazily(async () => (await import('../proofs/proof-list')).ProofList),
      },
      {
        at: '/proofs/walk',
        name: 'Walk the edges',
        open: lazily(async () => (await import('../proofs/walk')).Walk),
      },
      {
        at: '/proofs/csv',
        name: 'CSV',
        found: 'CSV in and out',
        open: lazily(async () => (await import('../proofs/proofs-csv')).ProofsCsv),
      },
    ],
  },
  alone(
    '/findings',
    'Findings',
    lazily(async () => (await import('../findings/findings')).Findings),
  ),
  {
    at: '/release',
    name: 'Release',
    headed: true,
    parts: [
      {
        at: '/release',
        name: 'Publish',
        open: lazily(async () => (await import('../releases/publish')).Publish),
      },
      {
        at: '/release/now',
        name: 'What goes on',
        found: 'what goes on today',
        open: lazily(async () => (await import('../live/today')).WhatGoesOn),
      },
      {
        at: '/release/history',
        name: 'All releases',
        open: lazily(async () => (await import('../releases/history')).ReleaseHistory),
      },
      {
        at: '/release/door',
        name: 'Checkout door',
        found: 'checkout door and keys',
        open: lazily(async () => (await import('../releases/door')).CheckoutDoor),
      },
      {
        at: '/release/webhooks',
        name: 'Webhooks',
        open: lazily(async () => (await import('../releases/webhooks')).Webhooks),
      },
    ],
  },
  {
    ...alone(
      '/orders',
      'Orders',
      lazily(async () => (await import('../orders/orders')).Orders),
    ),
    headed: true,
  },
  {
    ...alone(
      '/turned-away',
      'Turned away',
      lazily(async () => (await import('../turned-away/turned-away')).TurnedAway),
    ),
    headed: true,
  },
  {
    at: '/shop',
    name: 'The shop',
    apart: true,
    found: 'The shop: settings, name, address, currency, units',
    headed: true,
    parts: [
      {
        at: '/shop',
        name: 'Settings',
        open: lazily(async () => (await import('../store/shop-settings')).ShopSettings),
      },
      {
        at: '/shop/people',
        name: 'People',
        found: 'people and their roles',
        open: lazily(async () => (await import('../people/people')).People),
      },
      {
        at: '/shop/me',
        name: 'My account',
        open: lazily(async () => (await import('../people/me')).MyAccount),
      },
      {
        at: '/shop/log',
        name: 'Audit log',
        open: lazily(async () => (await import('../people/log')).AuditLog),
      },
    ],
  },
]

/** The pages of the bar. */
export const SECTIONS = PAGES.filter(({ apart }) => !apart)

/** The page that an address belongs to. */
export function pageAt(path: string): Page {
  return PAGES.findLast(({ at }) => path === at || path.startsWith(`${at}/`)) ?? BOARD
}

/** Fetches a page that is pointed at. */
export function prepare({ parts: [first] }: Page) {
  first.open.prepare?.()
}

/** In the middle of a line. */
function lower(name: string): string {
  return name === 'CSV' ? name : name.charAt(0).toLowerCase() + name.slice(1)
}

/** All places by name, as the palette finds them. */
export const PLACES: readonly { at: string; name: string }[] = PAGES.flatMap((page) => [
  { at: page.at, name: page.found ?? page.name },
  ...page.parts
    .slice(1)
    .map(({ at, name, found }) => ({ at, name: `${page.name}: ${found ?? lower(name)}` })),
])
