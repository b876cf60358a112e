import { policyFindingSentence } from '../offers/findings'
import { goodsFindingSentence } from '../goods/words'
import type { Area, Finding, Geography, Setup } from '../api/client'
import { countryName, counted, type Formats } from '../ui/format'

/** A list as a sentence reads it: "IV, HS, KW and 6 ranges". */
function listed(
  items: string[],
  most: number,
  rest: (count: number) => string,
  count = items.length,
): string {
  const shown = items.slice(0, most)
  const left = count - shown.length
  const words = left > 0 ? [...shown, rest(left)] : shown
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}

function clauses({ count, clauses: first }: Area['only']): string {
  const ranges = first.filter((clause) => clause.includes(' to '))
  const codes = first.filter((clause) => !clause.includes(' to '))
  if (count > first.length) return listed(codes, 4, (left) => `${left.toLocaleString('en-GB')} more`, count)
  const shown = codes.slice(0, 4)
  const more = codes.length - shown.length
  const tail = [more > 0 && `${more} more`, ranges.length > 1 ? counted(ranges.length, 'range') : ranges[0]]
  return listed([...shown, ...tail.filter((word): word is string => Boolean(word))], 9, String)
}

export function regionName(geography: Geography | undefined, country: string, code: string): string {
  return geography?.regions[country]?.find((region) => region.code === code)?.name ?? code
}

const moreRegions = (left: number) => `${left} more ${left === 1 ? 'region' : 'regions'}`

/** What an area covers: "United Kingdom, only IV, HS, KW, ZE and 6 ranges". */
export function areaSentence(area: Area, geography?: Geography): string {
  if (area.kind === 'world' || !area.country) return 'All other countries'
  const country = area.country
  const regions = area.regions
    .map((code) => regionName(geography, country, code))
    .sort((a, b) => a.localeCompare(b, 'en-GB'))
  return [
    countryName(country),
    regions.length && `in ${listed(regions, 3, moreRegions)}`,
    area.only.count && `only ${clauses(area.only)}`,
    area.except.count && `except ${clauses(area.except)}`,
  ]
    .filter(Boolean)
    .join(', ')
}

type Numbers = Record<string, unknown>

const LEVELS: Record<string, string> = {
  clause_in_region: 'a postcode in a region',
  clause: 'a postcode',
  region: 'a region',
  country: 'a whole country',
  world: 'all other countries',
}

export function levelWords(level: string): string {
  return LEVELS[level] ?? level
}

/** A finding in words: what is wrong, and how to mend it. */
export function findingSentence(
  finding: Finding,
  setup: Setup,
  geography?: Geography,
  formats?: Formats,
): { text: string; mend: string } {
  const numbers = finding.numbers as Numbers
  const name = (id: string | null) => setup.zones.find((zone) => zone.id === id)?.name ?? 'another zone'
  const country = String(numbers.country ?? '')
  const place = country ? countryName(country) : ''
  const other = name(finding.other)
  switch (finding.code) {
    case 'covers_world':
      return {
        text: 'Covers everywhere that no other zone names.',
        mend: 'Fine if you mean to ship to any country.',
      }
    case 'never_wins':
      return {
        text: `Its part in ${place} never gets an address: ${other} takes them all.`,
        mend: `Move it above ${other}, or make it narrower than ${other}.`,
      }
    case 'overlap':
      return {
        text: `Meets ${other} in ${place}, both by ${levelWords(String(numbers.level))}. ${other} stands higher and wins.`,
        mend: 'Take the shared part out of one of them, or put the one that should win higher.',
      }
    case 'clauses_hidden': {
      const clauses = numbers.clauses as string[]
      const one = Number(numbers.count) === 1
      return {
        text: `${listed(clauses, 4, (left) => `${left} more clauses`, Number(numbers.count))} in ${place} never ${one ? 'gets' : 'get'} an address: ${other} takes ${one ? 'it' : 'them'}.`,
        mend: `Take ${one ? 'it' : 'them'} out, or put this zone above ${other}.`,
      }
    }
    case 'dead_clause':
      return {
        text: `“${numbers.clause}” matches no valid postcode of ${place}.`,
        mend: 'Correct it or take it out.',
      }
    case 'partly_covered':
      return {
        text: `Part of ${place} lands in no zone because of postcode clauses.`,
        mend: 'Give the rest of the country to a zone, if you ship there.',
      }
    case 'regions_left_out': {
      const regions = (numbers.regions as string[]).map((code) => regionName(geography, country, code))
      return {
        text: `Of ${place}, ${listed(regions, 4, moreRegions)} ${regions.length === 1 ? 'is' : 'are'} in no zone.`,
        mend: 'Add them, if you ship there.',
      }
    }
    default:
      return (
        (formats && policyFindingSentence(finding, setup, formats)) ?? goodsFindingSentence(finding, formats)
      )
  }
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

export function remarkSentence(remark: string, country: string, form: string | undefined): string {
  switch (remark) {
    case 'unknown_region':
      return `This region is not one of ${countryName(country)}; it is left out.`
    case 'malformed_postcode':
      return `This is not the form of a postcode there${form ? ` (such as ${form})` : ''}. What can be read of it is matched all the same.`
    case 'unfinished_postcode':
      return `This is the beginning of a postcode${form ? ` (a whole one is like ${form})` : ''}.`
    case 'lost_zero':
      return 'This is one figure short. Spreadsheets take away a zero in front: put it back if there was one.'
    case 'po_box':
      return 'The street names a post office box.'
    case 'military_mail':
      return 'This is military mail.'
    default:
      return remark
  }
}
