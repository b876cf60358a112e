import { useMemo } from 'react'
import { useGeography } from '../setup/queries'
import { count, countryName } from '../ui/locale'
import { useShapes } from '../map/world-map'
import { HEIGHT, WIDTH } from '../map/use-zoom'

/** The largest circle, in units of the drawing. */
const LARGEST = 54

/** Where carts were turned away: a circle in each country, its area by how many. */
export function AwayMap({ countries }: { countries: Record<string, number> }) {
  const { data: geography } = useGeography()
  const shapes = useShapes(geography)
  const most = Math.max(1, ...Object.values(countries))
  const circles = useMemo(
    () =>
      shapes
        .map(({ code, x, y }) => ({ code, x, y, times: countries[code] ?? 0 }))
        .filter(({ times }) => times > 0)
        .map((one) => ({ ...one, r: LARGEST * Math.sqrt(one.times / most) })),
    [shapes, countries, most],
  )
  const words = Object.entries(countries)
    .sort(([, one], [, other]) => other - one)
    .slice(0, 12)
    .map(([code, times]) => `${countryName(code)}: ${count(times)}`)
  return (
    <svg
      role="img"
      aria-label={`Carts turned away by country. ${words.join('; ')}`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full border border-hair bg-white"
    >
      {shapes.map(({ path }) => (
        <path key={path} d={path} className="fill-paper stroke-hair" strokeWidth={0.5} />
      ))}
      {circles.map(({ code, x, y, r, times }) => (
        <g key={code}>
          <circle
            cx={x}
            cy={y}
            r={Math.max(18, r)}
            className="fill-brick/40 stroke-brick"
            data-tip={`${countryName(code)}: ${count(times)}`}
          />
          <text x={x} y={y + 9} textAnchor="middle" className="fill-ink text-[26px] font-semibold">
            {count(times)}
          </text>
        </g>
      ))}
    </svg>
  )
}
