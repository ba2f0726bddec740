type Value = unknown
const isObject = (v: Value): v is Record<string, Value> => typeof v === 'object' && v !== null && !Array.isArray(v)
const same = (a: Value, b: Value) => JSON.stringify(a) === JSON.stringify(b)

/**
 * Joins two copies of a document that began from one: each field as whoever changed it has it, ours where both did.
 * Rows of lists of one length are joined row by row; else the list is one field.
 */
export function join(base: Value, theirs: Value, ours: Value): Value {
  if (same(theirs, ours) || same(ours, base)) return theirs
  if (same(theirs, base)) return ours
  if (isObject(theirs) && isObject(ours)) {
    const from = isObject(base) ? base : {}
    const names = new Set([...Object.keys(theirs), ...Object.keys(ours)])
    const joined = [...names].map((n) => [n, join(from[n], theirs[n], ours[n])])
    return Object.fromEntries(joined.filter(([, v]) => v !== undefined))
  }
  if (Array.isArray(base) && Array.isArray(theirs) && Array.isArray(ours)) {
    if (base.length === theirs.length && base.length === ours.length)
      return ours.map((o, i) => join(base[i], theirs[i], o))
  }
  return ours
}
