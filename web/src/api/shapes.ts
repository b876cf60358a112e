/** The names of an object's own fields, which its type says are all that it has. */
export function keysOf<T extends object>(of: T): (keyof T & string)[] {
  return Object.keys(of) as (keyof T & string)[]
}

/** The same without the fields whose value is refused: those that may be left out. */
export function withOnly<T extends object>(
  of: { [Name in keyof T]: T[Name] | undefined },
  kept: (value: unknown, name: string) => boolean,
): T {
  return Object.fromEntries(Object.entries(of).filter(([name, value]) => kept(value, name))) as T
}

/** What was thrown, as an error. */
export function errorOf(thrown: unknown): Error {
  return thrown instanceof Error ? thrown : new Error(String(thrown))
}

/** A text of JSON that this application has written, or that the contract describes. */
export function parsed<T>(text: string): T {
  return JSON.parse(text)
}

/** The fields of an object with their values. */
export function entriesOf<T extends object>(of: T): [keyof T & string, T[keyof T]][] {
  return keysOf(of).map((name) => [name, of[name]])
}

export function isKeyOf<T extends object>(of: T, name: PropertyKey): name is keyof T {
  return Object.hasOwn(of, name)
}

/** The same without one of its fields. */
export function without<T extends object, Name extends keyof T>(of: T, name: Name): Omit<T, Name> {
  const { [name]: _, ...rest } = of
  return rest
}
