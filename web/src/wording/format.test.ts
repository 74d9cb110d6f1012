import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { bytes, duration, share, time, typedDuration } from './format'

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

describe('the page words as the core does', () => {
  it.each(CASES)('%s %s is %s', (what, given, words) => {
    expect(WORDS[what]?.(given)).toBe(words)
  })
})
