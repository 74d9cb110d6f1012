export type Cell = string | number | boolean

/** A table that anything reads: what is inside of a row stands in columns of its own, such as `about.name`. */
export interface FlatTable {
  columns: string[]
  rows: Cell[][]
}

function put(value: unknown, name: string, into: Map<string, Cell>) {
  if (value === undefined || value === null) return
  if (Array.isArray(value)) {
    into.set(
      name,
      value.map((v) => (typeof v === 'object' && v ? JSON.stringify(v) : String(v))).join('; '),
    )
  } else if (typeof value === 'object') {
    for (const [key, inner] of Object.entries(value))
      put(inner, name ? `${name}.${key}` : key, into)
  } else {
    into.set(name, value as Cell)
  }
}

/** Rows of any form as a table; columns in the order in which they first come. */
export function flat(rows: readonly object[]): FlatTable {
  const columns = new Map<string, number>()
  const read = rows.map((row) => {
    const cells = new Map<string, Cell>()
    put(row, '', cells)
    for (const name of cells.keys()) if (!columns.has(name)) columns.set(name, columns.size)
    return cells
  })
  const names = [...columns.keys()]
  return { columns: names, rows: read.map((cells) => names.map((n) => cells.get(n) ?? '')) }
}
