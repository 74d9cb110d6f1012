import { describe, expect, it } from 'vitest'
import { listedLine, reachedLine, total } from './census'

describe('what stores come to together', () => {
  it('counts by the newest whole list of each', () => {
    expect(
      total([
        { reached: 'folder', done: { claimed: 10, there: 9, untold: 3 } },
        {
          reached: 'sftp',
          done: { claimed: 5, there: 5, untold: 0 },
          away: 'nothing listens there',
        },
        { reached: 'not-known' },
      ]),
    ).toEqual({ away: 1, unknown: 1, claimed: 15, there: 14, untold: 3 })
    expect(total([])).toEqual({ away: 0, unknown: 0, claimed: 0, there: 0, untold: 0 })
  })

  it('says how a store is reached and why a list is none', () => {
    expect(reachedLine({ reached: 'sftp' })).toBe('SFTP')
    expect(listedLine({ state: 'failed', sentence: 'it broke off' })).toBe(
      'Its last listing failed: it broke off',
    )
  })
})
