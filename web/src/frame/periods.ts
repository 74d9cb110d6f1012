/** A stretch of the calendar in UTC, as the As at control offers it. */
export interface CalendarPeriod {
  title: string
  from: string
  /** Empty while it goes on. */
  until: string
}

const iso = (t: number) => new Date(t).toISOString().replace('.000Z', 'Z')

/** The present and the past month and quarter, newest first. */
export function calendarPeriods(now: number): CalendarPeriod[] {
  const today = new Date(now)
  const year = today.getUTCFullYear()
  const month = today.getUTCMonth()
  const quarter = Math.floor(month / 3)
  const monthName = (offset: number) =>
    new Date(Date.UTC(year, month + offset, 1)).toLocaleString('en', {
      month: 'long',
      year: 'numeric',
      timeZone: 'UTC',
    })
  const quarterStart = (offset: number) => new Date(Date.UTC(year, (quarter + offset) * 3, 1))
  const quarterName = (offset: number) => {
    const start = quarterStart(offset)
    return `Q${start.getUTCMonth() / 3 + 1} ${start.getUTCFullYear()}`
  }
  return [
    { title: monthName(0), from: iso(Date.UTC(year, month, 1)), until: '' },
    {
      title: monthName(-1),
      from: iso(Date.UTC(year, month - 1, 1)),
      until: iso(Date.UTC(year, month, 1)),
    },
    { title: quarterName(0), from: iso(quarterStart(0).getTime()), until: '' },
    {
      title: quarterName(-1),
      from: iso(quarterStart(-1).getTime()),
      until: iso(quarterStart(0).getTime()),
    },
  ]
}
