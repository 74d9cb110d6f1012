import type { FateLine, LossDraft, Plate } from '../api/types'

/** What is lost, as it is put together on the screen. */
export interface Loss {
  site: string[]
  region: string[]
  store: string[]
  domain: string[]
  holder: string[]
  feed: string[]
  intruder: boolean
  taintedAfter: string
}

export type Part = 'site' | 'region' | 'store' | 'domain'

export const nothing = (): Loss => ({
  site: [],
  region: [],
  store: [],
  domain: [],
  holder: [],
  feed: [],
  intruder: false,
  taintedAfter: '',
})

/** The same with one more lost, or with it back. */
export function pressed(loss: Loss, part: Part, name: string): Loss {
  const names = loss[part]
  return {
    ...loss,
    [part]: names.includes(name) ? names.filter((n) => n !== name) : [...names, name].sort(),
  }
}

/** A loss as the server names it. */
export const named = (l: LossDraft): Loss => ({
  site: l.site ?? [],
  region: l.region ?? [],
  store: l.store ?? [],
  domain: l.domain ?? [],
  holder: l.holder ?? [],
  feed: l.feed ?? [],
  intruder: l.intruder ?? false,
  taintedAfter: l.taintedAfter ?? '',
})

/** The same for the server: what is not lost is left out. */
export const asked = (l: Loss): LossDraft => ({
  ...l,
  intruder: l.intruder || undefined,
  taintedAfter: l.taintedAfter || undefined,
})

const key = (l: Loss) => {
  const instant = l.taintedAfter ? Date.parse(l.taintedAfter) : 0
  return JSON.stringify([
    l.site,
    l.region,
    l.store,
    l.domain,
    l.holder,
    l.feed,
    l.intruder,
    instant,
  ])
}

export const same = (a: Loss, b: Loss): boolean => key(a) === key(b)

export interface Site {
  site: string
  /** What fails together stands together; a domain of one store has no name. */
  groups: { domain: string; stores: Plate[] }[]
}
export interface Nested {
  region: string
  sites: Site[]
}

/** Regions hold sites hold failure domains hold stores; what names none lies under an empty name, last. */
export function nested(plates: Plate[]): Nested[] {
  return by(plates, (p) => p.region ?? '').map(([region, inRegion]) => ({
    region,
    sites: by(inRegion, (p) => p.site ?? '').map(([site, stores]) => ({
      site,
      groups: by(stores, (p) => p.domain).map(([domain, all]) => ({
        domain: all.length > 1 ? domain : '',
        stores: all,
      })),
    })),
  }))
}

function by(plates: Plate[], name: (p: Plate) => string): [string, Plate[]][] {
  const found = new Map<string, Plate[]>()
  for (const p of plates) found.set(name(p), [...(found.get(name(p)) ?? []), p])
  return [...found].sort(([a], [b]) => Number(!a) - Number(!b) || a.localeCompare(b))
}

/** How wide a plate grows: by its bytes, but never so small that it can't be pressed. */
export const grows = (plate: Plate): number => 1 + Math.sqrt(plate.bytes / 1e9)

/** Failure domains with stores at more than one site, which no plate holds. */
export function scattered(plates: Plate[]): { domain: string; stores: string[] }[] {
  return by(plates, (p) => p.domain)
    .filter(([, stores]) => new Set(stores.map((p) => `${p.region}\n${p.site}`)).size > 1)
    .map(([domain, stores]) => ({ domain, stores: stores.map((p) => p.name) }))
}

/** Steps of the curve of return: after how many milliseconds which share of the workloads is back. */
export function returns(lines: FateLine[]): { ms: number; share: number }[] {
  const counted = lines.filter((l) => l.fate !== 'had-nothing')
  const ends = counted
    .map((l) => l.backMs)
    .filter((ms): ms is number => ms !== undefined)
    .sort((a, b) => a - b)
  return ends.map((ms, i) => ({ ms, share: (i + 1) / counted.length }))
}
