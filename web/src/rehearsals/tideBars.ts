import type { PlannedRehearsal, RehearsalView } from '../api/types'

/** A member in time: planned, and what was measured as far as it has come. Milliseconds from the begin. */
export interface TideBar {
  resource: string
  name: string
  planned?: { begin: number; end: number }
  measured?: { begin: number; end: number; open: boolean }
  /** Whether it sets the time. */
  critical: boolean
  tone: 'up' | 'bad' | 'open' | 'none'
  note: string
}

const TONES: Record<RehearsalView['members'][number]['state'], TideBar['tone']> = {
  waiting: 'none',
  running: 'open',
  awaiting: 'open',
  up: 'up',
  failed: 'bad',
  'not-judged': 'none',
  'not-begun': 'none',
}

const WORDS: Record<RehearsalView['members'][number]['state'], string> = {
  waiting: 'waits',
  running: 'coming back',
  awaiting: 'waits for a word',
  up: 'up',
  failed: 'failed',
  'not-judged': 'not judged',
  'not-begun': 'never began',
}

/** What a member is called by its state. */
export const stateWords = (state: keyof typeof WORDS): string => WORDS[state]

/**
 * The bars of a rehearsal that waits, goes on or has ended.
 *
 * @param now milliseconds since its begin
 */
export function barsOf(rehearsal: RehearsalView, now: number): TideBar[] {
  return rehearsal.members.map((m) => ({
    resource: m.resource,
    name: m.name,
    planned: { begin: m.plannedBeginMs, end: m.plannedEndMs },
    measured:
      m.beginMs === undefined
        ? undefined
        : {
            begin: m.beginMs,
            end: m.workedMs ?? Math.max(m.beginMs, now),
            open: m.workedMs === undefined,
          },
    critical: m.critical,
    tone: TONES[m.state],
    note: WORDS[m.state],
  }))
}

/** The bars of a rehearsal that is only thought of. */
export function barsOfPlan(plan: PlannedRehearsal): TideBar[] {
  return plan.members.map((m) => ({
    resource: m.resource,
    name: m.name,
    planned:
      m.beginMs === undefined || m.endMs === undefined
        ? undefined
        : { begin: m.beginMs, end: m.endMs },
    critical: m.critical,
    tone: 'none',
    note: m.with ? `with ${m.with}` : (m.store ?? 'no store'),
  }))
}

/** When the last bar ends. */
export const totalOf = (bars: TideBar[]): number =>
  Math.max(0, ...bars.flatMap((b) => [b.planned?.end ?? 0, b.measured?.end ?? 0]))
