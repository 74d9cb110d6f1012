import { afterEach, describe, expect, it, vi } from 'vitest'
import { now, setClock } from './clock'

describe('the clock', () => {
  afterEach(() => vi.useRealTimers())

  it('goes on from what the server said, as fast as it said', () => {
    vi.useFakeTimers()
    vi.setSystemTime('2026-11-28T12:00:00Z')
    setClock('2027-01-01T00:00:00Z', 1800)
    vi.setSystemTime('2026-11-28T12:00:02Z')
    expect(new Date(now()).toISOString()).toBe('2027-01-01T01:00:00.000Z')
    setClock('2026-11-28T12:00:02Z', 1)
    vi.setSystemTime('2026-11-28T12:00:03Z')
    expect(now()).toBe(Date.now())
  })
})
