import type { Setting } from '../api/client'

/** Where a setting is edited. */
export function settingPath(setting: Setting): string {
  switch (setting.kind) {
    case 'rate':
      return `/#rate=${encodeURIComponent(setting.id)}&field=${setting.field}`
    case 'method':
      return `/methods#method=${encodeURIComponent(setting.id)}`
    case 'treatment':
      return `/goods/treatments#treatment=${encodeURIComponent(setting.id)}&field=${setting.field}`
    case 'offer':
      return `/offers#offer=${encodeURIComponent(setting.id)}`
    case 'rule':
      return `/rules#rule=${encodeURIComponent(setting.id)}`
    case 'coupon':
      return `/offers/registers`
    case 'box':
      return '/goods/boxes'
    case 'class':
      return `/goods/classes#class=${encodeURIComponent(setting.id)}`
  }
}
