import type { Area, Geography, Schemas } from '../api/client'
import {
  alphabetically,
  count as figure,
  counted,
  countryName,
  list,
  placeName,
  shortList,
} from '../ui/locale'

function clauses({ count, clauses: first }: Area['only']): string {
  const ranges = first.filter((clause) => clause.includes(' to '))
  const codes = first.filter((clause) => !clause.includes(' to '))
  if (count > first.length) return shortList(codes, 4, { of: count })
  const shown = codes.slice(0, 4)
  const more = codes.length - shown.length
  const tail = [
    more > 0 && `${figure(more)} more`,
    ranges.length > 1 ? counted(ranges.length, 'range') : ranges[0],
  ]
  return list([...shown, ...tail])
}

export function regionName(geography: Geography | undefined, country: string, code: string): string {
  return geography?.regions[country]?.find((region) => region.code === code)?.name ?? code
}

/** What ends a list of regions that is cut short. */
export const moreRegions = (left: number) => counted(left, 'more region')

/** What an area covers: "United Kingdom, only IV, HS, KW, ZE and 6 ranges". */
export function areaSentence(area: Area, geography?: Geography): string {
  if (area.kind === 'world' || !area.country) return 'All other countries'
  const country = area.country
  const regions = area.regions.map((code) => regionName(geography, country, code)).sort(alphabetically)
  return [
    countryName(country),
    regions.length && `in ${shortList(regions, 3, { rest: moreRegions })}`,
    area.only.count && `only ${clauses(area.only)}`,
    area.except.count && `except ${clauses(area.except)}`,
  ]
    .filter(Boolean)
    .join(', ')
}

const LEVELS = {
  clause_in_region: 'a postcode in a region',
  clause: 'a postcode',
  region: 'a region',
  country: 'a whole country',
  world: 'all other countries',
}

export function levelWords(level: keyof typeof LEVELS): string {
  return LEVELS[level]
}

/** An address as it would be typed. */
export function addressWords(address: {
  country?: string | null
  region?: string | null
  postcode?: string | null
}): string {
  return [address.country && countryName(address.country), address.region, address.postcode]
    .filter(Boolean)
    .join(' · ')
}

type Remark = NonNullable<Schemas['Landing']['remarks']>[number]

export function remarkSentence(
  remark: Remark,
  country: string,
  form: string | undefined,
  elsewhere?: string,
): string {
  switch (remark) {
    case 'unknown_region':
      return `This is not a region of ${placeName(country)}, so it is left out.`
    case 'region_against_postcode':
      return 'The postcode lies in another region than the one that is said, so neither counts. Put one of them right.'
    case 'own_country':
      return `This postcode is in ${elsewhere ? placeName(elsewhere) : 'another country'}, which counts as a country of its own.`
    case 'malformed_postcode':
      return `This is not the form of a postcode there${form ? ` (such as ${form})` : ''}. What can be read of it is matched all the same.`
    case 'unfinished_postcode':
      return `This is the beginning of a postcode${form ? ` (a whole one is like ${form})` : ''}.`
    case 'lost_zero':
      return 'This is one digit short, so it is read with a zero in front. Spreadsheets drop it.'
    case 'po_box':
      return 'The street names a post office box.'
    case 'military_mail':
      return 'This is military mail.'
  }
}
