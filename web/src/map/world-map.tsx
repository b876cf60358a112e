import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { geoCentroid, geoEqualEarth, geoPath } from 'd3-geo'
import type { Feature, Geometry, MultiPolygon, Polygon, Position } from 'geojson'
import { useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { feature } from 'topojson-client'
import type { GeometryCollection } from 'topojson-specification'
import type { CoverageMap, Geography, Setup } from '../api/client'
import { countryName, list } from '../ui/locale'
import { toneOf } from './tones'
import { HEIGHT, useZoom, WIDTH } from './use-zoom'
import { Button } from '../ui/button'

interface Shape {
  code: string
  path: string
  x: number
  y: number
}

// Outlines that Natural Earth draws with a country, though ISO 3166-1 gives them a code of their own: boxes in degrees.
const APART: { of: string; code: string; west: number; south: number; east: number; north: number }[] = [
  { of: 'FR', code: 'GF', west: -56, south: 1, east: -50, north: 7 },
  { of: 'FR', code: 'GP', west: -63, south: 15.5, east: -60.5, north: 17 },
  { of: 'FR', code: 'MQ', west: -62, south: 14, east: -60.5, north: 15.3 },
  { of: 'FR', code: 'RE', west: 54, south: -23, east: 57, north: -20 },
  { of: 'FR', code: 'YT', west: 44, south: -14, east: 46, north: -12 },
  { of: 'NO', code: 'SJ', west: -10, south: 70.5, east: 36, north: 82 },
  { of: 'NL', code: 'BQ', west: -70, south: 11, east: -62, north: 18 },
]

type Outline = Feature<Polygon | MultiPolygon> & { code: string | undefined }

/** One country's outline, with the parts that have a code of their own taken out of it. */
function apart(geography: Geography) {
  return (country: Feature<Geometry>): Outline[] => {
    const code = geography.numbers[String(country.id)]
    const { geometry } = country
    if (geometry.type !== 'MultiPolygon') return [{ ...(country as Feature<Polygon>), code }]
    const parts = new Map<string | undefined, Position[][][]>()
    for (const polygon of geometry.coordinates) {
      const [lon, lat] = geoCentroid({ type: 'Polygon', coordinates: polygon })
      const own = APART.find(
        (box) =>
          box.of === code &&
          lon > box.west &&
          lon < box.east &&
          lat > box.south &&
          lat < box.north &&
          (box.code !== 'SJ' || lat > 73.5 || lon < 0),
      )
      const key = own?.code ?? code
      parts.set(key, [...(parts.get(key) ?? []), polygon])
    }
    return [...parts].map(([key, coordinates]) => ({
      type: 'Feature',
      properties: {},
      geometry: { type: 'MultiPolygon', coordinates },
      code: key,
    }))
  }
}

/** Outlines of all countries (Natural Earth, public domain), drawn once. */
export function useShapes(geography: Geography | undefined) {
  const { data: atlas } = useQuery({
    queryKey: ['atlas'],
    queryFn: async () => (await import('world-atlas/countries-50m.json')).default,
    staleTime: Infinity,
  })
  return useMemo<Shape[]>(() => {
    if (!atlas || !geography) return []
    const countries = feature(atlas, atlas.objects.countries as GeometryCollection)
    const projection = geoEqualEarth().fitSize([WIDTH, HEIGHT], { type: 'Sphere' })
    const draw = geoPath(projection)
    return countries.features.flatMap(apart(geography)).flatMap((country) => {
      const code = country.code
      const path = draw(country)
      const [x, y] = draw.centroid(country)
      return code && path ? [{ code, path, x, y }] : []
    })
  }, [atlas, geography])
}

interface Props {
  setup: Setup
  geography: Geography | undefined
  coverage: CoverageMap | undefined
  /** Adds a country to the zone being edited; nothing where none is. */
  pick: ((country: string) => void) | null
}

export function coverageWords(code: string, coverage: CoverageMap | undefined, setup: Setup): string {
  const found = coverage?.countries[code]
  const ids = found?.zones ?? (coverage?.world ? [coverage.world] : [])
  const names = ids.map((id) => byId(setup.zones, id)?.name ?? '')
  if (names.length === 0) return `${countryName(code)}: in no zone`
  return `${countryName(code)}: ${list(names)}${found?.served === 'partly' ? ', in part' : ''}`
}

/** The world with each zone's countries in its tone; countries covered in part are hatched, others are bare. */
export function WorldMap({ setup, geography, coverage, pick }: Props) {
  const shapes = useShapes(geography)
  const [named, setNamed] = useState<string | null>(null)
  const [current, setCurrent] = useState('GB')
  const svg = useRef<SVGSVGElement>(null)

  const { view, zoomBy, pan, show, whole, inSight } = useZoom(svg)
  const home = () => {
    const shape = shapes.find(({ code }) => code === (setup.store?.country ?? 'GB'))
    if (shape) show(shape.x, shape.y, 6)
  }
  // Arrow keys go to the nearest country that way, with Shift they move the map.
  const keys = (event: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    const from = shapes.find(({ code }) => code === current)
    if (way && event.shiftKey) {
      event.preventDefault()
      const [across = 0, down = 0] = way
      pan(across, down)
    } else if (way && from) {
      event.preventDefault()
      const [dx = 0, dy = 0] = way
      const next = shapes
        .map((shape) => ({
          shape,
          along: (shape.x - from.x) * dx + (shape.y - from.y) * dy,
          aside: Math.abs((shape.x - from.x) * dy) + Math.abs((shape.y - from.y) * dx),
        }))
        .filter(({ along, aside }) => along > 0.5 && aside <= along * 1.5)
        .sort((a, b) => a.along + a.aside - b.along - b.aside)[0]
      if (next) {
        setCurrent(next.shape.code)
        setNamed(next.shape.code)
        if (!inSight(next.shape.x, next.shape.y)) show(next.shape.x, next.shape.y, view.k)
      }
    } else if ((event.key === 'Enter' || event.key === ' ') && pick) {
      event.preventDefault()
      pick(current)
    } else if (event.key === '+' || event.key === '-') zoomBy(event.key === '+' ? 1.5 : 1 / 1.5)
  }

  return (
    <div>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        data-zoomed={view.k > 1}
        className="w-full touch-pan-y border border-edge bg-white data-[zoomed=true]:cursor-grab data-[zoomed=true]:touch-none"
        role="application"
        tabIndex={0}
        aria-label={`Map of the zones. Arrow keys go from country to country, with Shift they move the map${pick ? ', Enter adds one' : ''}. ${coverageWords(current, coverage, setup)}`}
        onKeyDown={keys}
        onFocus={() => setNamed(current)}
        onBlur={() => setNamed(null)}
        onMouseLeave={() => setNamed(null)}
      >
        <defs>
          {setup.zones.map((zone, index) => (
            <pattern
              key={zone.id}
              id={`part-${index}`}
              patternUnits="userSpaceOnUse"
              width={6 / view.k}
              height={6 / view.k}
              patternTransform="rotate(45)"
            >
              <rect width="100%" height="100%" fill="var(--color-white)" />
              <rect width={3.2 / view.k} height="100%" fill={toneOf(index)} />
            </pattern>
          ))}
        </defs>
        <g transform={`translate(${view.x} ${view.y}) scale(${view.k})`}>
          {shapes.map(({ code, path }, index) => {
            const found = coverage?.countries[code]
            const zone = found ? found.zones[0] : coverage?.world
            const place = setup.zones.findIndex(({ id }) => id === zone)
            const fill =
              place < 0
                ? 'var(--color-paper)'
                : found?.served === 'partly' || (found?.zones.length ?? 0) > 1
                  ? `url(#part-${place})`
                  : toneOf(place)
            const marked = code === named
            return (
              <path
                key={`${code}${index}`}
                d={path}
                fill={fill}
                stroke={marked ? 'var(--color-ink)' : 'var(--color-edge)'}
                strokeWidth={(marked ? 2 : 0.5) / view.k}
                style={{ cursor: pick ? 'copy' : 'default' }}
                onMouseEnter={() => {
                  setNamed(code)
                  setCurrent(code)
                }}
                onClick={() => pick?.(code)}
              />
            )
          })}
        </g>
      </svg>
      <div className="flex items-center gap-2 py-1.5">
        <output className="min-w-0 flex-1 truncate font-medium">
          {named ? (
            coverageWords(named, coverage, setup)
          ) : (
            <span className="font-normal text-soft">
              {pick
                ? 'Point at a country; a click adds it'
                : 'Point at a country. Choose a zone to add countries to it.'}
            </span>
          )}
        </output>
        <Button aria-label="Zoom in" onClick={() => zoomBy(1.6)}>
          +
        </Button>
        <Button aria-label="Zoom out" disabled={view.k === 1} onClick={() => zoomBy(1 / 1.6)}>
          −
        </Button>
        <Button onClick={home}>Home</Button>
        <Button disabled={view.k === 1} onClick={whole}>
          World
        </Button>
      </div>
    </div>
  )
}
