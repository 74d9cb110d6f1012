import { expect, test } from 'vitest'
import { scaleOf } from './tideScale'

const HOUR = 3_600_000

test('an objective near the end is shown, one far beyond is not', () => {
  expect(scaleOf(HOUR, 3 * HOUR).markShown).toBe(true)
  expect(scaleOf(HOUR, 3 * HOUR + 1).markShown).toBe(false)
  expect(scaleOf(4 * HOUR, HOUR).markShown).toBe(true)
  expect(scaleOf(0, HOUR).markShown).toBe(true)
  expect(scaleOf(HOUR, 0).markShown).toBe(false)
})

test('all bars lie within it, and it has few ticks', () => {
  for (const total of [0, 1, 900, 4_000, HOUR, 37 * HOUR, 9_000 * HOUR]) {
    const scale = scaleOf(total, 2 * HOUR)
    expect(scale.end).toBeGreaterThan(total)
    expect(scale.ticks[0]).toBe(0)
    expect(scale.ticks.length).toBeLessThanOrEqual(6)
    expect(Math.max(...scale.ticks)).toBeLessThanOrEqual(scale.end)
  }
})
