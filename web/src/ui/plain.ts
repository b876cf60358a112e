/** Without accents, in small letters: how texts are compared with what someone looks for. */
export function plain(text: string): string {
  return text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase()
}

/** Whether a text has every word that is looked for, in any order. */
export function contains(text: string, sought: string): boolean {
  const there = plain(text)
  return plain(sought)
    .split(/\s+/)
    .every((word) => there.includes(word))
}
