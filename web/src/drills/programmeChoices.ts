import type { CopyWay, Method, PointWay, RungCode, ShowingWay, Tell } from '@/api/types'

/** What a programme can be told, in words. */
interface Choice<T> {
  title: string
  value: T
}

export const CADENCES: Choice<string>[] = [
  { title: 'as needed, so that no proof lapses', value: '' },
  { title: 'every night at 02:00', value: 'FREQ=DAILY;BYHOUR=2;BYMINUTE=0;BYSECOND=0' },
  {
    title: 'every Saturday at 02:00',
    value: 'FREQ=WEEKLY;BYDAY=SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0',
  },
  {
    title: 'first Saturday of the month at 02:00',
    value: 'FREQ=MONTHLY;BYDAY=1SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0',
  },
  { title: 'by a rule of my own …', value: 'own' },
]

export const SHOWINGS: Choice<ShowingWay>[] = [
  { title: 'what is demanded of each', value: 'demanded' },
  { title: 'as much as can be shown of each kind', value: 'strongest' },
  { title: 'a rung …', value: 'rung' },
  { title: 'what one method shows …', value: 'method' },
  { title: 'whole workloads, back in their order', value: 'rehearsal' },
]

export const RUNGS: Choice<RungCode | ''>[] = [
  { title: 'anything', value: '' },
  { title: 'held or more', value: 'held' },
  { title: 'intact or more', value: 'intact' },
  { title: 'restored or more', value: 'restored' },
  { title: 'running or more', value: 'running' },
  { title: 'rehearsed', value: 'rehearsed' },
]

export const METHODS: Choice<Method>[] = [
  { title: 'presence', value: 'presence' },
  { title: 'read-through', value: 'read-through' },
  { title: 'sample restore', value: 'sample-restore' },
  { title: 'full restore', value: 'full-restore' },
  { title: 'database restore', value: 'database' },
  { title: 'directory restore', value: 'directory' },
  { title: 'application restore', value: 'container-application' },
  { title: 'boot', value: 'boot' },
]

export const POINTS: Choice<PointWay>[] = [
  { title: 'the newest', value: 'newest' },
  { title: 'one drawn at random', value: 'random' },
  { title: 'the oldest kept', value: 'oldest' },
  { title: 'each in turn', value: 'in-turn' },
  { title: 'the riskiest: of odd size, else of the longest chain', value: 'riskiest' },
]

export const COPIES: Choice<CopyWay>[] = [
  { title: 'not the one drilled last', value: 'not-last' },
  { title: 'any', value: 'any' },
  { title: 'an off-site one', value: 'off-site' },
  { title: 'the one on a store …', value: 'store' },
]

export const TELLS: Choice<Tell>[] = [
  { title: 'failures', value: 'failures' },
  { title: 'every drill that ends', value: 'everything' },
  { title: 'nothing', value: 'nothing' },
]
