import type { Schemas } from '../api/client'

/** Along length, width and height. */
type Triple = readonly [number, number, number]
type Drawing = NonNullable<Schemas['ParcelsDrawn']['parcels'][number]['drawing']>
interface Unit {
  at: Triple
  dims: Triple
  name: string
  of: number
}

// Stone tones: lime is for what is free, and nothing else.
const TONES = ['#e4dbc7', '#cfc3a6', '#b9c4c9', '#d8c9b8', '#c6cbb5', '#cbbfc4']
const MOST = 400

const tripleOf = ([length = 0, width = 0, height = 0]: readonly number[]): Triple => [length, width, height]

/** Single units of the blocks; blocks of very many stay whole. */
function unitsOf(drawing: Drawing): Unit[] {
  const many = drawing.blocks.reduce((sum, { counts }) => sum + counts.reduce((a, b) => a * b, 1), 0) > MOST
  return drawing.blocks.flatMap(({ name, of, ...block }) => {
    const at = tripleOf(block.at)
    const counts = tripleOf(block.counts)
    const dims = tripleOf(block.dims)
    if (many)
      return Array.from({ length: counts[2] }, (_, k) => ({
        name,
        of,
        at: [at[0], at[1], at[2] + k * dims[2]],
        dims: [counts[0] * dims[0], counts[1] * dims[1], dims[2]],
      }))
    const units: Unit[] = []
    for (let k = 0; k < counts[2]; k++)
      for (let j = 0; j < counts[1]; j++)
        for (let i = 0; i < counts[0]; i++)
          units.push({
            name,
            of,
            at: [at[0] + i * dims[0], at[1] + j * dims[1], at[2] + k * dims[2]],
            dims,
          })
    return units
  })
}

/** The heights at which something is put down, from the bottom up. */
export function layersOf(drawing: Drawing): number[] {
  return [...new Set(unitsOf(drawing).map(({ at }) => at[2]))].sort((one, other) => one - other)
}

/** A packed box seen from above one corner, with everything up to one layer in it. */
export function BoxDrawing({ drawing, layer, label }: { drawing: Drawing; layer: number; label: string }) {
  const [length = 0, width = 0, height = 0] = drawing.room
  const top = layersOf(drawing)[layer] ?? 0
  const scale = 230 / Math.max(length + width, height * 1.2)
  const point = (x: number, y: number, z: number): [number, number] => [
    (x - y) * 0.866 * scale,
    ((x + y) * 0.5 - z) * scale,
  ]
  const path = (...points: [number, number, number][]) =>
    points
      .map((place) =>
        point(...place)
          .map((value) => value.toFixed(1))
          .join(','),
      )
      .join(' ')
  const left = -width * 0.866 * scale - 4
  const upper = -height * scale - 4
  const shown = unitsOf(drawing)
    .filter(({ at }) => at[2] <= top)
    .sort((one, other) => one.at[2] - other.at[2] || one.at[0] + one.at[1] - other.at[0] - other.at[1])
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`${left} ${upper} ${(length + width) * 0.866 * scale + 8} ${((length + width) * 0.5 + height) * scale + 8}`}
      className="max-h-56 w-full"
    >
      <polygon
        points={path([0, 0, 0], [length, 0, 0], [length, width, 0], [0, width, 0])}
        fill="var(--color-sheet)"
        stroke="var(--color-edge)"
      />
      <polyline
        points={path([0, width, 0], [0, width, height], [0, 0, height], [length, 0, height], [length, 0, 0])}
        fill="none"
        stroke="var(--color-edge)"
      />
      <polyline points={path([0, 0, 0], [0, 0, height])} fill="none" stroke="var(--color-edge)" />
      {shown.map(({ at, dims, name, of }, index) => {
        const [x = 0, y = 0, z = 0] = at
        const [l = 0, w = 0, h = 0] = dims
        const tone = TONES[of % TONES.length]!
        const here = z === top
        const face = {
          stroke: 'var(--color-ink)',
          strokeWidth: here ? 1 : 0.5,
          strokeLinejoin: 'round' as const,
        }
        return (
          <g key={index}>
            <title>{name}</title>
            <polygon
              points={path([x, y, z + h], [x + l, y, z + h], [x + l, y + w, z + h], [x, y + w, z + h])}
              fill={tone}
              {...face}
            />
            <polygon
              points={path([x, y + w, z], [x + l, y + w, z], [x + l, y + w, z + h], [x, y + w, z + h])}
              fill={tone}
              style={{ filter: 'brightness(0.93)' }}
              {...face}
            />
            <polygon
              points={path([x + l, y, z], [x + l, y + w, z], [x + l, y + w, z + h], [x + l, y, z + h])}
              fill={tone}
              style={{ filter: 'brightness(0.86)' }}
              {...face}
            />
          </g>
        )
      })}
    </svg>
  )
}
