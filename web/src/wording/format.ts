import { now as clockNow } from './clock'
import { zone } from './zone'

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

function two(n: number): string {
  return String(n).padStart(2, '0')
}

/** As the sentences of the core write durations (the cases are shared): at most two units, truncated. */
export function duration(ms: number): string {
  if (ms < 0) return `-${duration(-ms)}`
  if (ms >= 1 && ms < 1000) return `${Math.floor(ms)} ms`
  if (ms < MINUTE) return `${Math.floor(ms / 1000)} s`
  if (ms < HOUR) {
    const seconds = Math.floor((ms % MINUTE) / 1000)
    const minutes = Math.floor(ms / MINUTE)
    return seconds && minutes < 10 ? `${minutes} m ${two(seconds)} s` : `${minutes} m`
  }
  if (ms < 2 * DAY) {
    const minutes = Math.floor((ms % HOUR) / MINUTE)
    return minutes ? `${Math.floor(ms / HOUR)} h ${two(minutes)} m` : `${Math.floor(ms / HOUR)} h`
  }
  const hours = Math.floor((ms % DAY) / HOUR)
  return hours ? `${Math.floor(ms / DAY)} d ${two(hours)} h` : `${Math.floor(ms / DAY)} d`
}

/** As people type durations, exactly: `30m`, `24h`, and days from three on, `30d`. */
export function typedDuration(ms: number): string {
  if (ms >= 3 * DAY && ms % DAY === 0) return `${ms / DAY}d`
  if (ms % HOUR === 0) return `${ms / HOUR}h`
  return ms % MINUTE === 0 ? `${ms / MINUTE}m` : `${ms / 1000}s`
}

/** Bytes with a decimal unit, three significant figures. */
export function bytes(n: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB', 'PB']
  let value = n
  let unit = 0
  while (Math.abs(value) >= 999.5 && unit < units.length - 1) {
    value /= 1000
    unit++
  }
  const decimals = value < 9.995 ? 2 : value < 99.95 ? 1 : 0
  return `${unit === 0 ? n : value.toFixed(decimals)} ${units[unit]}`
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

interface Parts {
  year: number
  month: number
  day: number
  clock: string
}

function utcParts(instant: string | number): Parts {
  const t = new Date(instant)
  return {
    year: t.getUTCFullYear(),
    month: t.getUTCMonth(),
    day: t.getUTCDate(),
    clock: `${two(t.getUTCHours())}:${two(t.getUTCMinutes())}`,
  }
}

const formats = new Map<string, Intl.DateTimeFormat>()

function format(zoneName: string): Intl.DateTimeFormat {
  const known = formats.get(zoneName)
  if (known) return known
  const made = new Intl.DateTimeFormat('en', {
    timeZone: zoneName,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZoneName: 'shortOffset',
  })
  formats.set(zoneName, made)
  return made
}

function said(t: Parts, now: Parts, after: string): string {
  const year = t.year === now.year ? '' : ` ${t.year}`
  return `${t.day} ${MONTHS[t.month]}${year} ${t.clock}${after}`
}

/** `24 Nov 03:10 UTC`, with the year when it is not this one: as sentences and evidence have it. */
export function utc(instant: string | number, now = clockNow()): string {
  return said(utcParts(instant), utcParts(now), ' UTC')
}

function localParts(instant: string | number, zoneName: string): Parts & { offset: string } {
  const parts = new Map(
    format(zoneName)
      .formatToParts(new Date(instant))
      .map((p) => [p.type, p.value]),
  )
  const number = (name: Intl.DateTimeFormatPartTypes) => Number(parts.get(name))
  return {
    year: number('year'),
    month: number('month') - 1,
    day: number('day'),
    clock: `${parts.get('hour')}:${parts.get('minute')}`,
    offset: parts.get('timeZoneName') ?? '',
  }
}

/**
 * `24 Nov 03:10` in the person's zone; where that is not UTC, what it is off by stands behind, as sentences of the
 * server are in UTC.
 */
export function time(instant: string | number, now = clockNow()): string {
  const own = zone()
  if (own === 'UTC') return said(utcParts(instant), utcParts(now), '')
  const t = localParts(instant, own)
  return said(t, localParts(now, own), /^GMT([+-]0)?$/.test(t.offset) ? '' : ` ${t.offset}`)
}

/** `3 h 10 m ago`, `in 2 d`. */
export function relative(instant: string | number, now = clockNow()): string {
  const ms = now - new Date(instant).getTime()
  if (Math.abs(ms) < 1000) return 'just now'
  return ms >= 0 ? `${duration(ms)} ago` : `in ${duration(-ms)}`
}

/** Share of 1 as per cent with two decimals, truncated: 99.996 % is not 100 %. */
export function share(value: number): string {
  return `${(Math.floor(value * 10000) / 100).toFixed(2)} %`
}

export const RUNGS = ['claimed', 'held', 'intact', 'restored', 'running', 'rehearsed'] as const

/** The name of a rung; `nothing` below the ladder. */
export function rungName(rung: number): string {
  return RUNGS[rung] ?? 'nothing'
}

/** A code as words: `full-restore` → `full restore`. */
export function words(code: string): string {
  return code.replaceAll('-', ' ')
}

export function count(n: number, one: string, many: string): string {
  return `${n} ${n === 1 ? one : many}`
}

const METHOD_NAMES: Record<string, string> = {
  database: 'database restore',
  directory: 'directory restore',
  'container-application': 'application restore',
  'read-through': 'read-through',
  'read-back': 'read-back',
}

/** The name of a drill method in sentences. */
export function methodName(code: string): string {
  return METHOD_NAMES[code] ?? words(code)
}

const SCREEN_CLASSES: Record<string, string> = {
  'login-reached': 'it reached its login',
  'not-bootable': 'nothing on it could be started',
  'fatal-stop': 'it stopped for good',
  'repair-prompt': 'it waits for somebody to repair it',
  stalled: 'it came to a standstill',
  blank: 'its screen stayed blank',
  unknown: 'its screen is not known',
  'not-decided': 'not decided: it needs a real engine',
}

/** What was concluded from a machine's screen, in words. */
export function screenClassName(code: string): string {
  return SCREEN_CLASSES[code] ?? words(code)
}
