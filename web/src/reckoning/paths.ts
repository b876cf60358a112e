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
    default:
      return '/'
  }
}
