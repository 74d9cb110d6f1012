import { describe, expect, it } from 'vitest'
import { drilled, instantOf } from './said'

const NOW = Date.parse('2026-11-29T06:00:00Z')

describe('the instant that somebody means', () => {
  it.each([
    ['2026-10-01', '2026-10-01T00:00:00Z'],
    ['2026-10-01 14:30', '2026-10-01T14:30:00Z'],
    ['1 October', '2026-10-01T00:00:00Z'],
    ['1. oct 2025 7:05', '2025-10-01T07:05:00Z'],
    ['31 december', '2025-12-31T00:00:00Z'],
    ['29 feb 2024', '2024-02-29T00:00:00Z'],
  ])('%s is %s', (text, instant) => expect(instantOf(text, NOW)).toBe(instant))

  it.each([
    '29 feb 2025',
    '31 april',
    '2027-01-01',
    '2026-13-01',
    '1 brumaire',
    '1 oct 25:00',
    'x',
  ])('%s is none', (text) => expect(instantOf(text, NOW)).toBeUndefined())
})

describe('what is to be drilled', () => {
  it('is what follows the word', () => expect(drilled('drill payroll db')).toBe('payroll db'))
  it('is nothing where the word is another', () => expect(drilled('drills')).toBeUndefined())
})
