import type { ExposureView } from '@/api/types'

/** Height of the saw-tooth part, and of each lane under it, in pixels. */
export const HEAD = 118
export const LANE = 25
const TOP = 6

/**
 * The paths of an exposure curve. Nothing is computed here that is not geometry: the teeth, the
 * lanes and the figures come from the server.
 */
export function drawExposure(view: ExposureView, width: number) {
  const span = Math.max(1, view.to - view.from)
  const x = (instant: number) => ((instant - view.from) / span) * width
  const instant = (px: number) =>
    Math.round(view.from + (Math.min(width, Math.max(0, px)) / width) * span)

  // The scale is that of what was told.
  const peaks = view.teeth.map((t) =>
    t.newest === undefined ? 0 : Math.min(t.to, view.horizon) - t.newest,
  )
  const highest = Math.max(view.rpoMs * 1.25, ...peaks) * 1.04
  const y = (exposure: number) => HEAD - (exposure / highest) * (HEAD - TOP)

  let curve = ''
  let over = ''
  let lost = ''
  for (const tooth of view.teeth) {
    const left = x(tooth.from)
    const right = x(tooth.to)
    if (tooth.newest === undefined) {
      lost += `M${left} ${TOP}H${right}V${HEAD}H${left}Z`
      continue
    }
    const a = tooth.from - tooth.newest
    const b = tooth.to - tooth.newest
    curve += `${curve ? 'L' : 'M'}${left.toFixed(1)} ${y(a).toFixed(1)}L${right.toFixed(1)} ${y(b).toFixed(1)}`
    // What nobody has told of is not shown as over.
    const told = Math.min(tooth.to, view.horizon)
    const start = Math.max(tooth.from, tooth.newest + view.rpoMs)
    if (told > start) {
      const end = told - tooth.newest
      over += `M${x(start)} ${y(Math.max(a, view.rpoMs))}L${x(told)} ${y(end)}V${y(view.rpoMs)}H${x(start)}Z`
    }
  }

  // By proof: on the scale of what is claimed, and along its top where it is beyond that.
  let proven = ''
  for (const tooth of view.byProof.teeth) {
    if (tooth.newest === undefined) continue
    const at = (instant: number) => Math.max(TOP, y(instant - (tooth.newest ?? 0))).toFixed(1)
    const top = tooth.newest + highest
    const bend = top > tooth.from && top < tooth.to ? `L${x(top).toFixed(1)} ${TOP}` : ''
    proven += `M${x(tooth.from).toFixed(1)} ${at(tooth.from)}${bend}L${x(tooth.to).toFixed(1)} ${at(tooth.to)}`
  }

  const laneY = (i: number) => HEAD + 22 + i * LANE + 8
  const lanes = view.lanes.map((lane, i) => {
    const at = laneY(i)
    const ticks = lane.ticks.filter((t) => t.finished !== undefined)
    const path = (which: 'good' | 'bad' | 'suspect') =>
      ticks
        .filter((t) => (t.suspect ? 'suspect' : t.usable ? 'good' : 'bad') === which)
        .map((t) => `M${x(t.finished ?? 0).toFixed(1)} ${at - 4}v8`)
        .join('')
    return {
      store: lane.store,
      name: lane.name,
      y: at,
      good: path('good'),
      bad: path('bad'),
      suspect: path('suspect'),
    }
  })

  const links: string[] = []
  for (let i = 1; i < view.lanes.length; i++) {
    const above = new Map(view.lanes[i - 1]?.ticks.map((t) => [t.point, t]))
    for (const tick of view.lanes[i]?.ticks ?? []) {
      const first = above.get(tick.point)
      if (first?.finished === undefined || tick.finished === undefined) continue
      links.push(`M${x(first.finished)} ${laneY(i - 1) + 4}L${x(tick.finished)} ${laneY(i) - 4}`)
    }
  }

  const marks = view.drills.map((d) => ({
    run: d.run,
    passed: d.passed,
    x: x(d.dataTime),
    y: HEAD + 8,
  }))
  const toldX = Math.min(width, Math.max(0, x(view.horizon)))
  return { x, instant, toldX, curve, proven, over, lost, rpoY: y(view.rpoMs), lanes, links, marks }
}
