<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useTheme } from 'vuetify'
import type { BoardRow } from '@/api/types'
import { rungName } from '@/wording/format'

/**
 * One column for each workload, sorted by tier, its height the rung reached; the demanded rungs are
 * a stepped line across; what is missing below it is hatched. Drawn on a canvas, so that 10,000
 * workloads cost no more than ten. A click asks for the workloads under the pointer.
 */
const props = defineProps<{ rows: BoardRow[]; chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ choose: [keys: string[]] }>()

const HEIGHT = 118
const TOP = 10
const BASE = 94
const STEP = 16
const LEFT = 18
const TIER_GAP = 16

const box = ref<HTMLDivElement>()
const canvas = ref<HTMLCanvasElement>()
const width = ref(600)
const hovered = ref<{ x: number; text: string }>()
const theme = useTheme()

const columns = computed(() =>
  props.rows
    .filter((r) => r.verdict !== 'excluded')
    .map((r) => ({ row: r, tier: r.tier ?? 1 }))
    .sort((a, b) => a.tier - b.tier || a.row.name.localeCompare(b.row.name)),
)

const layout = computed(() => {
  const tiers = new Set(columns.value.map((c) => c.tier)).size
  const room = width.value - LEFT - Math.max(0, tiers - 1) * TIER_GAP
  const step = Math.min(46, room / Math.max(1, columns.value.length))
  let x = LEFT
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

const words = computed(() => {
  const under = columns.value.filter((c) => c.row.ladder.rung < c.row.ladder.demanded).length
  return `Waterline: ${columns.value.length} workloads by tier, ${under} under the rung that is demanded of them`
})

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
    context.fillText(String(rung), 0, BASE - rung * STEP)
    context.fillStyle = color('--rule')
    context.fillRect(LEFT - 4, BASE - rung * STEP, width.value - LEFT, 0.5)
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
    if (c.tier !== placed[i - 1]?.tier) {
      context.fillStyle = color('--quiet')
      context.fillText(`tier ${c.tier}`, c.x, BASE + 13)
    }
  })
  context.fillStyle = color('--rule-strong')
  context.fillRect(LEFT - 4, BASE, width.value - LEFT + 4, 1)
}

function under(event: MouseEvent) {
  const x = event.offsetX
  const { placed, step } = layout.value
  return placed.filter((c) => x + 0.5 >= c.x && x - 0.5 < c.x + step)
}

function hover(event: MouseEvent) {
  const hit = under(event)[0]
  hovered.value = hit && {
    x: Math.min(hit.x, width.value - 260),
    text: `${hit.row.name}: ${rungName(hit.row.ladder.rung)}, ${rungName(hit.row.ladder.demanded)} demanded`,
  }
}

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
  [layout, () => props.chosen, () => theme.global.name.value],
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
      role="img"
      :aria-label="words"
      @mousemove="hover"
      @mouseleave="hovered = undefined"
      @click="
        emit(
          'choose',
          under($event).map((c) => c.row.key),
        )
      "
    />
    <span
      v-if="hovered"
      class="tip small"
      :style="{ left: `${hovered.x}px`, top: `${TOP - 12}px` }"
      >{{ hovered.text }}</span
    >
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
.tip {
  position: absolute;
  background: var(--ink);
  color: var(--paper);
  padding: 1px 8px;
  pointer-events: none;
  white-space: nowrap;
}
</style>
