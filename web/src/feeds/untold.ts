import type { Untold } from '../api/types'

const KINDS = ['resources', 'points', 'copies']
const NAMED = 5

/** A few by name, and how many more. */
export function some(all: string[]): string {
  if (all.length <= NAMED + 1) return all.join(', ')
  return `${all.slice(0, NAMED).join(', ')} and ${all.length - NAMED} more`
}

/** What a feed can't tell, in sentences; none where it tells of nothing that is judged, or of all. */
export function sentences(u: Untold): string[] {
  if (!u.told.length) return []
  const said: string[] = []
  const none = KINDS.filter((k) => !u.told.includes(k))
  if (none.length)
    said.push(`It tells of ${u.told.join(' and ')}, and of no ${none.join(' and no ')}.`)
  for (const l of u.lacks) said.push(`None of its ${l.kind} has ${some(l.fields)}.`)
  if (u.unjudged.length)
    said.push(`Not enough data for all it tells of: ${some(u.unjudged.map((c) => c.title))}.`)
  return said
}
