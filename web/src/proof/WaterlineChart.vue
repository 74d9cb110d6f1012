<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useId, watch } from 'vue'
import { useTheme } from 'vuetify'
import type { BoardRow } from '@/api/types'
import { count, rungName, RUNGS } from '@/wording/format'

/**
 * One column for each workload, sorted by tier, its height the rung reached; the demanded rungs are
 * a stepped line across; what is missing below it is hatched. Drawn on a canvas, so that 10,000
 * workloads cost no more than ten. A click asks for the workloads under the pointer; arrow keys go from
 * workload to workload, which is told as a list is.
 */
const props = defineProps<{ rows: BoardRow[]; chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ choose: [keys: string[]] }>()

const HEIGHT = 118
const TOP = 10
const BASE = 94
const STEP = 16
const NARROW = 700
const TIER_GAP = 16

const box = ref<HTMLDivElement>()
const canvas = ref<HTMLCanvasElement>()
const width = ref(600)
const hovered = ref<{ x: number; text: string }>()
const cursor = ref<number>()
const theme = useTheme()
const listId = useId()

/** The rungs by name where there is room, else by number. */
const left = computed(() => (width.value < NARROW ? 18 : 88))

const columns = computed(() =>
  props.rows
    .filter((r) => r.verdict !== 'excluded')
    .map((r) => ({ row: r, tier: r.heldTo }))
    .sort((a, b) => a.tier - b.tier || a.row.name.localeCompare(b.row.name)),
)

const layout = computed(() => {
  const tiers = new Set(columns.value.map((c) => c.tier)).size
  const room = width.value - left.value - Math.max(0, tiers - 1) * TIER_GAP
  const step = Math.min(46, room / Math.max(1, columns.value.length))
  let x = left.value
  let last = columns.value[0]?.tier
  const placed = columns.value.map((c) => {
    if (c.tier !== last) x += TIER_GAP
    last = c.tier
    const at = x
    x += step
    return { ...c, x: at }
  })
  return { step, placed }
})

const isUnder = (r: BoardRow) => r.ladder.rung < r.ladder.demanded

const words = computed(() => {
  const under = columns.value.filter((c) => isUnder(c.row)).length
  return `Waterline: ${count(columns.value.length, 'workload', 'workloads')} by tier, ${under} under the rung that is demanded of them`
})

const wordsOf = (r: BoardRow) =>
  `${r.name}: ${rungName(r.ladder.rung)}, ${rungName(r.ladder.demanded)} demanded`

const atCursor = computed(() =>
  cursor.value === undefined ? undefined : layout.value.placed[cursor.value],
)

/** Steps along the workloads; Home and End go to the ends, up and down to the next that is under its line. */
function step(to: number, needy = false) {
  const { placed } = layout.value
  const by = Math.sign(to)
  let next = cursor.value === undefined ? (by > 0 ? 0 : placed.length - 1) : cursor.value + to
  while (needy && placed[next] && !isUnder(placed[next].row)) next += by
  if (placed[next]) cursor.value = next
}

function onKey(event: KeyboardEvent) {
  const last = layout.value.placed.length - 1
  const moves: Record<string, () => void> = {
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
    ArrowDown: () => step(1, true),
    ArrowUp: () => step(-1, true),
    Home: () => (cursor.value = 0),
    End: () => (cursor.value = last),
    Enter: () => atCursor.value && emit('choose', [atCursor.value.row.key]),
    ' ': () => atCursor.value && emit('choose', [atCursor.value.row.key]),
  }
  const move = moves[event.key]
  if (!move || last < 0) return
  event.preventDefault()
  event.stopPropagation()
  move()
}

function onFocus() {
  if (cursor.value === undefined) step(1)
}

function hatch(context: CanvasRenderingContext2D, color: string): CanvasPattern | string {
  const tile = document.createElement('canvas')
  tile.width = 6
  tile.height = 6
  const t = tile.getContext('2d')
  if (!t) return color
  t.strokeStyle = color
  t.lineWidth = 1.3
  t.beginPath()
  for (const d of [-6, 0, 6]) {
    t.moveTo(d, 6)
    t.lineTo(d + 6, 0)
  }
  t.stroke()
  return context.createPattern(tile, 'repeat') ?? color
}

function draw() {
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context || !box.value) return
  const ratio = window.devicePixelRatio || 1
  element.width = Math.round(width.value * ratio)
  element.height = HEIGHT * ratio
  context.scale(ratio, ratio)
  const style = getComputedStyle(box.value)
  const color = (name: string) => style.getPropertyValue(name).trim()
  context.font = `11px ${style.getPropertyValue('--mono')}`
  context.textBaseline = 'middle'
  for (let rung = 1; rung <= 5; rung++) {
    context.fillStyle = color('--quiet')
    const name = width.value < NARROW ? String(rung) : `${rung} ${RUNGS[rung]}`
    context.fillText(name, 0, BASE - rung * STEP)
    context.fillStyle = color('--rule')
    context.fillRect(left.value - 4, BASE - rung * STEP, width.value - left.value, 0.5)
  }
  const pattern = hatch(context, color('--hatch'))
  const { placed, step } = layout.value
  const bar = step > 6 ? step * 0.78 : step
  context.font = `12px ${style.getPropertyValue('--sans')}`
  placed.forEach((c, i) => {
    const { rung, demanded } = c.row.ladder
    const faded = props.chosen.size > 0 && !props.chosen.has(c.row.key)
    context.globalAlpha = faded ? 0.3 : 1
    const reached = Math.max(0, rung) * STEP
    context.fillStyle = color(rung >= demanded ? '--bar' : '--bar-short')
    context.fillRect(c.x, BASE - reached, bar, reached)
    if (rung < demanded) {
      context.fillStyle = pattern
      context.fillRect(c.x, BASE - demanded * STEP, bar, demanded * STEP - reached)
    }
    context.globalAlpha = 1
    context.fillStyle = color('--accent')
    context.fillRect(c.x - (step - bar) / 2, BASE - demanded * STEP - 1, step, 2)
    if (i === cursor.value && focused.value) {
      context.strokeStyle = color('--ink')
      context.lineWidth = 2
      context.strokeRect(c.x - 1, TOP - 4, bar + 2, BASE - TOP + 5)
    }
    if (c.tier !== placed[i - 1]?.tier) {
      context.fillStyle = color('--quiet')
      context.fillText(`tier ${c.tier}`, c.x, BASE + 13)
    }
  })
  context.fillStyle = color('--rule-strong')
  context.fillRect(left.value - 4, BASE, width.value - left.value + 4, 1)
}

function under(event: MouseEvent) {
  const x = event.offsetX
  const { placed, step } = layout.value
  return placed.filter((c) => x + 0.5 >= c.x && x - 0.5 < c.x + step)
}

function hover(event: MouseEvent) {
  const hit = under(event)[0]
  hovered.value = hit && tip(hit)
}

function tip(column: { x: number; row: BoardRow }) {
  return { x: Math.min(column.x, width.value - 260), text: wordsOf(column.row) }
}

const focused = ref(false)
const shown = computed(
  () => hovered.value ?? (focused.value && atCursor.value ? tip(atCursor.value) : undefined),
)

let observer: ResizeObserver | undefined
onMounted(() => {
  if (!box.value) return
  observer = new ResizeObserver(([entry]) => {
    width.value = Math.max(200, Math.floor(entry?.contentRect.width ?? 600))
  })
  observer.observe(box.value)
  void document.fonts.ready.then(draw)
})
onBeforeUnmount(() => observer?.disconnect())
watch(
  [layout, cursor, focused, () => props.chosen, () => theme.global.name.value],
  () => requestAnimationFrame(draw),
  {
    immediate: true,
  },
)
</script>

<template>
  <div ref="box" class="waterline">
    <canvas
      ref="canvas"
      :height="HEIGHT"
      tabindex="0"
      role="listbox"
      :aria-label="words"
      :aria-activedescendant="atCursor ? `${listId}-${cursor}` : undefined"
      @mousemove="hover"
      @mouseleave="hovered = undefined"
      @keydown="onKey"
      @focus="((focused = true), onFocus())"
      @blur="focused = false"
      @click="
        emit(
          'choose',
          under($event).map((c) => c.row.key),
        )
      "
    >
      <span
        v-if="atCursor"
        :id="`${listId}-${cursor}`"
        role="option"
        :aria-selected="chosen.has(atCursor.row.key)"
        :aria-posinset="(cursor ?? 0) + 1"
        :aria-setsize="columns.length"
        >tier {{ atCursor.tier }}, {{ wordsOf(atCursor.row) }}</span
      >
    </canvas>
    <span v-if="shown" class="tip small" :style="{ left: `${shown.x}px`, top: `${TOP - 12}px` }">{{
      shown.text
    }}</span>
  </div>
</template>

<style scoped>
.waterline {
  position: relative;
  height: 118px;
}
canvas {
  width: 100%;
  height: 118px;
  display: block;
  cursor: pointer;
}
canvas:focus {
  outline: none;
}
canvas:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.tip {
  position: absolute;
  background: var(--ink);
  color: var(--paper);
  padding: 1px 8px;
  pointer-events: none;
  white-space: nowrap;
}
</style>
