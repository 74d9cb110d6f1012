import { expect, test } from 'vitest'
import { asked, grows, named, nested, nothing, pressed, returns, same, scattered } from './loss'

const plate = (
  key: string,
  site: string | undefined,
  region: string | undefined,
  domain: string,
  bytes = 0,
) =>
  ({
    key,
    name: key.toUpperCase(),
    site,
    region,
    domain,
    bytes,
    medium: 'disk',
    lost: false,
  }) as const

const line = (fate: 'survives' | 'lost' | 'had-nothing', backMs?: number) =>
  ({
    workload: 'w',
    name: 'W',
    fate,
    sentence: '',
    rpoMs: 1,
    backMs,
    rtoMs: 1,
    demanded: 'held',
  }) as const

test('pressing again gives back what was lost', () => {
  const lost = pressed(pressed(nothing(), 'site', 'B'), 'site', 'A')
  expect(lost.site).toEqual(['A', 'B'])
  expect(same(pressed(pressed(lost, 'site', 'A'), 'site', 'B'), nothing())).toBe(true)
  expect(same(lost, nothing())).toBe(false)
})

test('regions hold sites hold stores, what names none comes last', () => {
  const all = nested([
    plate('x', undefined, undefined, 'x'),
    plate('b', 'S2', 'r', 'd'),
    plate('a', 'S1', 'r', 'd'),
  ])
  expect(all.map((r) => r.region)).toEqual(['r', ''])
  expect(all[0]?.sites.map((s) => s.site)).toEqual(['S1', 'S2'])
  expect(all[1]?.sites[0]?.groups[0]?.stores[0]?.key).toBe('x')
})

test('what fails together at a site stands together, what does elsewhere too is said apart', () => {
  const plates = [
    plate('a', 'S', 'r', 'd'),
    plate('b', 'S', 'r', 'd'),
    plate('c', 'S', 'r', 'store:c'),
    plate('e', 'S', 'r', 'wide'),
    plate('f', 'T', 'r', 'wide'),
  ]
  expect(
    nested(plates)[0]?.sites[0]?.groups.map((g) => [g.domain, ...g.stores.map((s) => s.key)]),
  ).toEqual([
    ['d', 'a', 'b'],
    ['', 'c'],
    ['', 'e'],
  ])
  expect(scattered(plates)).toEqual([{ domain: 'wide', stores: ['E', 'F'] }])
})

test('a loss is the same by whatever way its instant is written, and comes back as it was asked', () => {
  const lost = { ...nothing(), feed: ['jobs'], taintedAfter: '2026-11-26T16:07:00.000Z' }
  expect(same(lost, named({ ...asked(lost), taintedAfter: '2026-11-26T16:07:00Z' }))).toBe(true)
  expect(same(lost, named({ ...asked(lost), feed: [] }))).toBe(false)
  expect(asked(nothing())).not.toHaveProperty('intruder', true)
  expect(same(named({}), nothing())).toBe(true)
})

test('larger plates are wider, and none vanishes', () => {
  expect(grows(plate('a', 'S', 'r', 'd', 0))).toBe(1)
  expect(grows(plate('a', 'S', 'r', 'd', 4e12))).toBeGreaterThan(
    grows(plate('a', 'S', 'r', 'd', 1e12)),
  )
})

test('the curve rises to the share that comes back', () => {
  expect(
    returns([line('survives', 30), line('survives', 10), line('lost'), line('had-nothing', 5)]),
  ).toEqual([
    { ms: 10, share: 1 / 3 },
    { ms: 30, share: 2 / 3 },
  ])
  expect(returns([])).toEqual([])
})
