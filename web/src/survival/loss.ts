import type { FateLine, Plate, RankLine } from '../api/types'

/** What is lost, as it is put together on the screen. */
export interface Loss {
  site: string[]
  region: string[]
  store: string[]
  domain: string[]
  intruder: boolean
  taintedAfter: string
}

export type Part = 'site' | 'region' | 'store' | 'domain'

export const nothing = (): Loss => ({
  site: [],
  region: [],
  store: [],
  domain: [],
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

export const ofRank = (r: RankLine): Loss => ({
  site: r.site,
  region: r.region,
  store: r.store,
  domain: r.domain,
  intruder: r.intruder,
  taintedAfter: '',
})

const key = (l: Loss) =>
  JSON.stringify([l.site, l.region, l.store, l.domain, l.intruder, l.taintedAfter])

export const same = (a: Loss, b: Loss): boolean => key(a) === key(b)

export interface Nested {
  region: string
  sites: { site: string; stores: Plate[] }[]
}

/** Regions hold sites hold stores; what names none lies under an empty name, last. */
export function nested(plates: Plate[]): Nested[] {
  const regions = new Map<string, Map<string, Plate[]>>()
  for (const p of plates) {
    const sites = regions.get(p.region ?? '') ?? new Map<string, Plate[]>()
    regions.set(p.region ?? '', sites)
    sites.set(p.site ?? '', [...(sites.get(p.site ?? '') ?? []), p])
  }
  const named = <T>(m: Map<string, T>) =>
    [...m].sort(([a], [b]) => Number(!a) - Number(!b) || a.localeCompare(b))
  return named(regions).map(([region, sites]) => ({
    region,
    sites: named(sites).map(([site, stores]) => ({ site, stores })),
  }))
}

/** How wide a plate grows: by its bytes, but never so small that it can't be pressed. */
export const grows = (plate: Plate): number => 1 + Math.sqrt(plate.bytes / 1e9)

/** Failure domains of more than one store, which can be lost together. */
export function shared(plates: Plate[]): { domain: string; stores: string[] }[] {
  const found = new Map<string, string[]>()
  for (const p of plates) found.set(p.domain, [...(found.get(p.domain) ?? []), p.name])
  return [...found]
    .filter(([, stores]) => stores.length > 1)
    .map(([domain, stores]) => ({ domain, stores }))
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
