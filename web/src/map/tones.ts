/** Muted tones of the coast: none is the lime that means free, none the brick that means trouble. */
const TONES = [
  '#5f7f94',
  '#c9a86a',
  '#8a9a83',
  '#b5857a',
  '#7d7496',
  '#a3b8c2',
  '#d8c9a3',
  '#6d6a5f',
  '#9c7f5c',
  '#54707a',
]

export function toneOf(index: number): string {
  return TONES[index % TONES.length] ?? '#6d6a5f'
}
