import { byId } from '../api/by-id'
import type { Product, Setup } from '../api/client'

export type FieldName =
  | 'sku'
  | 'name'
  | 'price'
  | 'cost'
  | 'weight'
  | 'length'
  | 'width'
  | 'height'
  | 'class'
  | 'tags'
  | 'hazardous'
  | 'packing'
  | 'ships'

export interface Column {
  field: FieldName | 'treatments'
  label: string
  width: number
  /** Whether a variant may say it itself. */
  own: boolean
  sort?: 'sku' | 'name' | 'price' | 'weight' | 'class'
  numeric?: boolean
}

export const COLUMNS: Column[] = [
  { field: 'sku', label: 'SKU', width: 104, own: true, sort: 'sku' },
  { field: 'name', label: 'Name', width: 196, own: true, sort: 'name' },
  { field: 'price', label: 'Price', width: 58, own: true, sort: 'price', numeric: true },
  { field: 'cost', label: 'Cost', width: 52, own: true, numeric: true },
  { field: 'weight', label: 'Weight', width: 64, own: true, sort: 'weight', numeric: true },
  { field: 'length', label: 'L', width: 38, own: true, numeric: true },
  { field: 'width', label: 'W', width: 38, own: true, numeric: true },
  { field: 'height', label: 'H', width: 38, own: true, numeric: true },
  { field: 'class', label: 'Class', width: 80, own: true, sort: 'class' },
  { field: 'tags', label: 'Tags', width: 76, own: false },
  { field: 'hazardous', label: 'Hazard', width: 50, own: false },
  { field: 'packing', label: 'Packing', width: 58, own: false },
  { field: 'ships', label: 'Ships', width: 40, own: false },
  { field: 'treatments', label: 'Treatments', width: 104, own: true },
]

/** What fields are called in sentences and tables, where that is not their own name. */
export const WORDS: Record<string, string> = { sku: 'SKU', ships: 'needs shipping', hazardous: 'hazard mark' }

export interface Shown {
  text: string
  /** Where the value comes from, when it is not the row's own. */
  from: string | null
}

/** The ids of all treatments that reach a product or variant: its own, its product's, its class's. */
export function treatmentsOn(product: Product, setup: Setup): string[] {
  const shippingClass = product.class ?? product.inherited?.class
  const byClass = byId(setup.classes, shippingClass)?.treatments ?? []
  return [...new Set([...product.treatments, ...(product.inherited?.treatments ?? []), ...byClass])]
}

function written(field: FieldName, from: Product | NonNullable<Product['inherited']>, setup: Setup): string {
  switch (field) {
    case 'class':
      return byId(setup.classes, from.class)?.name ?? ''
    case 'tags':
      return (from.tags ?? []).join('; ')
    case 'hazardous':
    case 'ships':
      return from[field] ? 'yes' : 'no'
    case 'length':
    case 'width':
    case 'height': {
      const unit = ` ${setup.store.length_unit}`
      const text = from[field] ?? ''
      return text.endsWith(unit) ? text.slice(0, -unit.length) : text
    }
    default:
      return from[field] ?? ''
  }
}

/** What a cell shows: the row's own value, or its product's and from where. */
export function shownIn(column: Column, product: Product, setup: Setup): Shown {
  if (column.field === 'treatments') {
    const names = treatmentsOn(product, setup).map((id) => byId(setup.treatments, id)?.name ?? '')
    return { text: names.join(', '), from: null }
  }
  const { field } = column
  const own = column.own || !product.inherited ? written(field, product, setup) : ''
  if (own || !product.inherited) return { text: own, from: null }
  const theirs = written(field, product.inherited, setup)
  return { text: theirs, from: theirs ? (product.inherited.name ?? null) : null }
}
