/** What is asked here of the list of a store. */
interface Counted {
  claimed: number
  there: number
  untold: number
}

interface Reached {
  reached: 'folder' | 'object-store' | 'sftp' | 'not-known'
  away?: string
  done?: Counted
}

const REACHED: Record<Reached['reached'], string> = {
  folder: 'folder here',
  'object-store': 'object store',
  sftp: 'SFTP',
  'not-known': 'nobody said how',
}

/** By what a store is spoken with. */
export function reachedLine(s: Pick<Reached, 'reached'>): string {
  return REACHED[s.reached]
}

/** Why a list is not a whole one. */
export function listedLine(c: { state: string; sentence: string }): string {
  return `Its last listing ${c.state}: ${c.sentence}`
}

/** All stores together, by the newest list of each that came to its end. */
export function total(stores: Reached[]) {
  const done = stores.flatMap((s) => (s.done ? [s.done] : []))
  return {
    away: stores.filter((s) => s.away).length,
    unknown: stores.filter((s) => s.reached === 'not-known').length,
    claimed: done.reduce((n, c) => n + c.claimed, 0),
    there: done.reduce((n, c) => n + c.there, 0),
    untold: done.reduce((n, c) => n + c.untold, 0),
  }
}
