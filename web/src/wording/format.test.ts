import { readFileSync } from 'node:fs'
import { beforeEach, describe, expect, it } from 'vitest'
import { bytes, duration, share, time, typedDuration, utc } from './format'
import { chooseZone, isZone } from './zone'

/** The cases that the core is held to as well (SharedWordingTest). */
const CASES = readFileSync('../core/src/test/resources/wording-cases.csv', 'utf8')
  .trim()
  .split('\n')
  .slice(1)
  .map((line) => line.split(';') as [string, string, string])
const NOW = Date.parse('2026-11-24T10:00:00Z')

const WORDS: Record<string, (given: string) => string> = {
  duration: (given) => duration(Number(given)),
  typed: (given) => typedDuration(Number(given)),
  bytes: (given) => bytes(Number(given)),
  share: (given) => share(Number(given)),
  time: (given) => time(given, NOW),
}

beforeEach(() => chooseZone('UTC'))

describe('the page words as the core does', () => {
  it.each(CASES)('%s %s is %s', (what, given, words) => {
    expect(WORDS[what]?.(given)).toBe(words)
  })
})

/** Offsets and clock changes by the IANA time zone database, as the runtime ships it. */
describe('times in the zone of a person', () => {
  it('says what it is off by, on both sides of a clock change', () => {
    chooseZone('Europe/Oslo')
    expect(time('2026-10-25T00:30:00Z', NOW)).toBe('25 Oct 02:30 GMT+2')
    expect(time('2026-10-25T01:30:00Z', NOW)).toBe('25 Oct 02:30 GMT+1')
    expect(time('2026-03-29T00:59:00Z', NOW)).toBe('29 Mar 01:59 GMT+1')
    expect(time('2026-03-29T01:00:00Z', NOW)).toBe('29 Mar 03:00 GMT+2')
  })

  it('moves the day, the year and half an hour with it', () => {
    chooseZone('Asia/Kolkata')
    expect(time('2026-11-23T19:00:00Z', NOW)).toBe('24 Nov 00:30 GMT+5:30')
    expect(time('2025-12-31T18:29:00Z', NOW)).toBe('31 Dec 2025 23:59 GMT+5:30')
    expect(time('2025-12-31T18:30:00Z', NOW)).toBe('1 Jan 00:00 GMT+5:30')
  })

  it('says nothing more where it is UTC', () => {
    expect(time('2026-11-24T09:05:00Z', NOW)).toBe('24 Nov 09:05')
    chooseZone('Europe/London')
    expect(time('2026-11-24T09:05:00Z', NOW)).toBe('24 Nov 09:05')
    expect(time('2026-07-24T09:05:00Z', NOW)).toBe('24 Jul 10:05 GMT+1')
  })

  it('has UTC whatever the zone is', () => {
    chooseZone('Pacific/Auckland')
    expect(utc('2026-11-24T09:05:00Z', NOW)).toBe('24 Nov 09:05 UTC')
    expect(utc('2025-11-24T09:05:00Z', NOW)).toBe('24 Nov 2025 09:05 UTC')
  })

  it('knows a zone from what is none', () => {
    expect(isZone('Europe/Oslo')).toBe(true)
    expect(isZone('Mars/Olympus')).toBe(false)
    expect(isZone('')).toBe(false)
  })
})
