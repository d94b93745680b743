/**
 * A table that is asked with what an author wrote. An object has more names than it was given, and somebody will call an
 * element, a property or a language `constructor`.
 */
export const tableOf = <Value>(table: Readonly<Record<string, Value>>): Readonly<Record<string, Value>> =>
  Object.assign(Object.create(null) as Record<string, Value>, table)
