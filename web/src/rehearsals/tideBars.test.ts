import { describe, expect, it } from 'vitest'
import type { RehearsalView } from '../api/types'
import { barsOf, totalOf } from './tideBars'

const member = (over: object) => ({
  resource: 'db',
  name: 'DB',
  needs: [],
  state: 'up',
  plannedBeginMs: 0,
  plannedEndMs: 4000,
  critical: true,
  sentence: '',
  ...over,
})
const rehearsal = (...members: object[]) => ({ members }) as unknown as RehearsalView

describe('bars of a rehearsal', () => {
  it('stand planned beside measured', () => {
    const [bar] = barsOf(rehearsal(member({ beginMs: 0, workedMs: 6000 })), 60_000)
    expect(bar?.planned).toEqual({ begin: 0, end: 4000 })
    expect(bar?.measured).toEqual({ begin: 0, end: 6000, open: false })
    expect(totalOf(bar ? [bar] : [])).toBe(6000)
  })

  it('grow until the last check, and none is drawn of what has not begun', () => {
    const bars = barsOf(
      rehearsal(member({ state: 'running', beginMs: 2000 }), member({ state: 'waiting' })),
      9000,
    )
    expect(bars[0]?.measured).toEqual({ begin: 2000, end: 9000, open: true })
    expect(bars[1]?.measured).toBeUndefined()
  })

  it('never end before they began, whatever the clock here says', () => {
    const [bar] = barsOf(rehearsal(member({ state: 'running', beginMs: 2000 })), 500)
    expect(bar?.measured?.end).toBe(2000)
  })
})
