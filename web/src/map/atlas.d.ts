declare module 'world-atlas/countries-50m.json' {
  import type { Topology } from 'topojson-specification'
  const atlas: Topology
  export default atlas
}
