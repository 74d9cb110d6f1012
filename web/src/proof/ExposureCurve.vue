<script setup lang="ts">
import { now as clockNow } from '@/wording/clock'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import { duration, time } from '@/wording/format'
import { drawExposure, HEAD, LANE } from './exposureDrawing'

/**
 * How much would have been lost at each moment, against the RPO, with the copies on each store
 * below. Hover reads exact values; dragging chooses a period and all figures follow.
 */
const props = defineProps<{ resource: string; when: { asAt?: string; knownAt?: string } }>()

const DAY = 86_400_000
const box = ref<HTMLDivElement>()
const width = ref(460)
const period = ref<{ from: number; to: number }>()
const dragged = ref<{ from: number; to: number }>()
const pointer = ref<number>()

const { data, problem, refresh } = useServerData('/api/resources/{key}/exposure', () => ({
  params: {
    path: { key: props.resource },
    query: {
      ...props.when,
      from: period.value && new Date(period.value.from).toISOString(),
      to: period.value && new Date(period.value.to).toISOString(),
    },
  },
}))
useEvents({ facts: () => void refresh() })

const drawing = computed(() => data.value && drawExposure(data.value, width.value))
const height = computed(() => HEAD + 24 + (data.value?.lanes.length ?? 0) * LANE)

const read = computed(() => {
  if (!data.value || !drawing.value || pointer.value === undefined) return undefined
  const at = drawing.value.instant(pointer.value)
  const tooth = data.value.teeth.find((t) => at >= t.from && at < t.to)
  if (!tooth) return `${time(at)}: nothing counted`
  if (tooth.newest === undefined) return `${time(at)}: no usable point, all would be lost`
  const most = at > data.value.horizon ? 'nobody has told; at most ' : ''
  const shown = data.value.byProof.teeth.find((t) => at >= t.from && at < t.to)?.newest
  const proven = shown === undefined ? 'all of it' : duration(at - shown)
  return `${time(at)}: ${most}${duration(at - tooth.newest)} would be lost, back to ${time(tooth.newest)}; ${proven} by proof`
})

function offset(event: PointerEvent): number {
  return event.clientX - (box.value?.getBoundingClientRect().left ?? 0)
}

function begin(event: PointerEvent) {
  if (!drawing.value) return
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  const at = drawing.value.instant(offset(event))
  dragged.value = { from: at, to: at }
}

function move(event: PointerEvent) {
  pointer.value = offset(event)
  if (dragged.value && drawing.value) {
    dragged.value = { ...dragged.value, to: drawing.value.instant(pointer.value) }
  }
}

function end() {
  const d = dragged.value
  dragged.value = undefined
  if (!d || Math.abs(d.to - d.from) < 3_600_000) return
  period.value = { from: Math.min(d.from, d.to), to: Math.max(d.from, d.to) }
}

function last(days: number) {
  const to = data.value?.asAt ?? clockNow()
  period.value = { from: to - days * DAY, to }
}

let observer: ResizeObserver | undefined
onMounted(() => {
  if (!box.value) return
  observer = new ResizeObserver(([entry]) => {
    width.value = Math.max(240, Math.floor(entry?.contentRect.width ?? 460))
  })
  observer.observe(box.value)
})
onBeforeUnmount(() => observer?.disconnect())
</script>

<template>
  <div class="row-between">
    <h2>Exposure</h2>
    <span class="small quiet">{{ data?.sentence }}</span>
  </div>
  <p v-if="problem" role="alert" class="small">{{ problem }}</p>
  <div ref="box" class="curve">
    <svg
      v-if="data && drawing"
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Exposure over time: ${data.sentence}`"
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="dragged = undefined"
      @pointerleave="pointer = undefined"
    >
      <path :d="drawing.lost" class="lost" />
      <path :d="drawing.over" class="over" />
      <path :d="drawing.proven" class="proven"><title>By proof</title></path>
      <path :d="drawing.curve" class="saw" />
      <rect
        v-if="drawing.toldX < width"
        :x="drawing.toldX"
        y="0"
        :width="width - drawing.toldX"
        :height="height"
        class="untold"
      >
        <title>Nobody has told since {{ time(data.horizon) }}</title>
      </rect>
      <line x1="0" :x2="width" :y1="drawing.rpoY" :y2="drawing.rpoY" class="rpo" />
      <text x="2" :y="drawing.rpoY - 4" class="label">RPO {{ duration(data.rpoMs) }}</text>
      <path v-for="(link, i) in drawing.links" :key="`l${i}`" :d="link" class="link-line" />
      <g v-for="lane in drawing.lanes" :key="lane.store">
        <line x1="0" :x2="width" :y1="lane.y" :y2="lane.y" class="lane" />
        <path :d="lane.good" class="tick" />
        <path :d="lane.bad" class="tick bad" />
        <path :d="lane.suspect" class="tick suspect"><title>suspect</title></path>
        <text x="2" :y="lane.y - 6" class="label back">{{ lane.name }}</text>
      </g>
      <g v-for="m in drawing.marks" :key="m.run">
        <circle :cx="m.x" :cy="m.y" r="5" class="mark" :class="{ failed: !m.passed }" />
        <path
          v-if="!m.passed"
          :d="`M${m.x - 3} ${m.y - 3}l6 6M${m.x + 3} ${m.y - 3}l-6 6`"
          class="mark failed"
        />
      </g>
      <rect
        v-if="dragged"
        :x="Math.min(drawing.x(dragged.from), drawing.x(dragged.to))"
        y="0"
        :width="Math.abs(drawing.x(dragged.to) - drawing.x(dragged.from))"
        :height="height"
        class="drag"
      />
      <line
        v-if="pointer !== undefined"
        :x1="pointer"
        :x2="pointer"
        y1="0"
        :y2="height"
        class="cross"
      />
    </svg>
    <v-skeleton-loader v-else-if="!problem" type="image" color="surface" />
  </div>
  <p v-if="data" class="small losses">
    Loss now: <b>{{ data.byProof.sentence }}</b>.
    <span class="quiet">The pale line is the loss by proof.</span>
  </p>
  <div class="row-between under small">
    <span class="mono read" aria-live="off">{{
      read ?? (data ? `${time(data.from)} – ${time(data.to)}` : '')
    }}</span>
    <span class="row periods">
      <button v-for="d in [7, 30, 45]" :key="d" class="link" @click="last(d)">{{ d }} d</button>
    </span>
  </div>
</template>

<style scoped>
.curve {
  margin-top: 6px;
  min-height: 120px;
}
svg {
  display: block;
  cursor: crosshair;
  touch-action: pan-y;
}
.proven {
  fill: none;
  stroke: var(--proven);
  stroke-width: 1.6;
  opacity: 0.55;
}
.suspect {
  stroke: var(--lapsed);
  stroke-width: 2;
  stroke-dasharray: 2 1.5;
}
.losses {
  margin: 4px 0 2px;
}
.saw {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  stroke-linejoin: round;
}
.over {
  fill: var(--exposed);
  opacity: 0.35;
}
.lost {
  fill: var(--exposed);
  opacity: 0.16;
}
.untold {
  fill: var(--paper);
  opacity: 0.72;
}
.rpo {
  stroke: var(--accent);
  stroke-width: 1.5;
}
.label {
  font: 11px var(--mono);
  fill: var(--quiet);
}
.back {
  font-size: 10px;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.lane {
  stroke: var(--rule);
}
.tick {
  stroke: var(--ink);
  stroke-width: 1.3;
  fill: none;
}
.bad {
  stroke: var(--disproven);
  stroke-width: 2;
}
.link-line {
  stroke: var(--quiet);
  stroke-width: 0.8;
  fill: none;
}
.mark {
  fill: none;
  stroke: var(--proven);
  stroke-width: 2;
}
.mark.failed {
  stroke: var(--disproven);
}
.cross {
  stroke: var(--accent);
  stroke-dasharray: 2 2;
}
.drag {
  fill: var(--accent);
  opacity: 0.15;
}
.under {
  margin-top: 2px;
}
.read {
  font-size: 12px;
  color: var(--quiet);
}
.periods {
  gap: 12px;
  flex-wrap: nowrap;
}
</style>
