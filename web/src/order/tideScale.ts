const MINUTE = 60_000
const STEPS = [
  1_000,
  5_000,
  10_000,
  30_000,
  MINUTE,
  2 * MINUTE,
  5 * MINUTE,
  10 * MINUTE,
  30 * MINUTE,
  ...[1, 2, 4, 8, 12, 24, 48, 96, 168, 336, 720].map((h) => h * 60 * MINUTE),
]
const MOST_TICKS = 5
/** Beyond so many times the whole, the mark would press all bars into the left edge. */
const FAR = 3

export interface Scale {
  /** Milliseconds at the right edge; never 0. */
  end: number
  ticks: number[]
  /** Whether the objective lies within it. */
  markShown: boolean
}

/** What the picture spans: all bars, and the objective where it is not far beyond them. */
export function scaleOf(total: number, objective: number): Scale {
  const markShown = objective > 0 && (total === 0 || objective <= FAR * total)
  const end = Math.max(1_000, 1.08 * Math.max(total, markShown ? objective : 0))
  const step = STEPS.find((s) => end / s <= MOST_TICKS) ?? end / MOST_TICKS
  const ticks: number[] = []
  for (let t = 0; t <= end * 0.97; t += step) ticks.push(t)
  return { end, ticks, markShown }
}
