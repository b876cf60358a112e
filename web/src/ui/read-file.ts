const MEGABYTE = 1024 * 1024

/** Reads a text file: UTF-8, or UTF-16 where it says so in its first bytes. A file over the limit is not even opened. */
export async function readFile(file: File, most = 8): Promise<string> {
  if (file.size > most * MEGABYTE)
    throw new Error(
      `${file.name} is larger than ${most} MB. Split it, or leave out columns that are not needed.`,
    )
  const bytes = new Uint8Array(await file.arrayBuffer())
  const mark = (first: number, second: number) => bytes[0] === first && bytes[1] === second
  const encoding = mark(0xff, 0xfe) ? 'utf-16le' : mark(0xfe, 0xff) ? 'utf-16be' : 'utf-8'
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes)
  } catch {
    throw new Error(`${file.name} is not UTF-8. Save it as CSV in UTF-8 and take it again.`)
  }
}
