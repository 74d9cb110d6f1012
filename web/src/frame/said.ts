const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

/**
 * The instant that somebody means by `2026-10-01`, `2026-10-01 14:30`, `1 October` or `1 oct 2026 14:30`, in UTC; a day
 * without a year is the last one that has been.
 */
export function instantOf(text: string, now: number): string | undefined {
  const iso = /^(\d{4})-(\d{2})-(\d{2})(?:[ t](\d{1,2}):(\d{2}))?$/i.exec(text)
  const said = /^(\d{1,2})\.? ([a-z]{3,9})\.?(?: (\d{4}))?(?: (\d{1,2}):(\d{2}))?$/i.exec(text)
  let parts: (number | undefined)[]
  if (iso) {
    parts = iso.slice(1).map((p) => (p === undefined ? undefined : Number(p)))
  } else if (said) {
    const month = MONTHS.indexOf(said[2]!.slice(0, 3).toLowerCase()) + 1
    if (!month) return undefined
    const [, day, , year, hour, minute] = said.map((p) => (p === undefined ? undefined : Number(p)))
    parts = [year, month, day, hour, minute]
  } else {
    return undefined
  }
  const [year, month, day, hour, minute] = parts
  const at = (y: number) => Date.UTC(y, month! - 1, day!, hour ?? 0, minute ?? 0)
  let time = at(year ?? new Date(now).getUTCFullYear())
  if (year === undefined && time > now) time = at(new Date(now).getUTCFullYear() - 1)
  const made = new Date(time)
  const real = made.getUTCMonth() === month! - 1 && made.getUTCDate() === day!
  return real && time <= now && (hour ?? 0) < 24 && (minute ?? 0) < 60
    ? made.toISOString().replace('.000Z', 'Z')
    : undefined
}

/** The words after `drill`, of whatever is to be drilled; undefined where nothing is. */
export function drilled(text: string): string | undefined {
  return /^drill (\S.*)$/i.exec(text.trim())?.[1]
}
