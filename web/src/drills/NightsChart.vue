<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { ForecastGap, ForecastNight } from '@/api/types'
import { bytes, count, duration, time } from '@/wording/format'

/** The coming nights: how full each is, and what lapses in it. A night is chosen by the mouse or the arrow keys. */
const props = defineProps<{ nights: ForecastNight[]; gaps: ForecastGap[] }>()
const chosen = ref<number>()
const HEIGHT = 74
const WIDE = 10

const lapses = computed(() => {
  const opens = props.nights.map((n) => Date.parse(n.opens))
  const found = props.nights.map((): ForecastGap[] => [])
  for (const gap of props.gaps) {
    if (!gap.lapsing) continue
    const at = Date.parse(gap.from)
    let night = 0
    while (night + 1 < opens.length && (opens[night + 1] ?? Infinity) <= at) night++
    found[night]?.push(gap)
  }
  return found
})
const load = (n: ForecastNight) => (n.roomMs ? Math.min(1, n.busyMs / n.roomMs) : 0)
/** Anything at all is seen, be it ever so little. */
const high = (n: ForecastNight) => (n.drills ? Math.max(3, load(n) * HEIGHT) : 0)

function words(i: number): string {
  const night = props.nights[i]
  if (!night) return ''
  const gone = lapses.value[i] ?? []
  const what = night.drills
    ? `${count(night.drills, 'drill', 'drills')}, ${duration(night.busyMs)} of ${duration(night.roomMs)}, ${bytes(night.bytes)} read`
    : 'no drill'
  const lost = gone.length
    ? `; ${count(gone.length, 'proof lapses', 'proofs lapse')}: ${gone
        .slice(0, 4)
        .map((g) => g.name)
        .join(', ')}${gone.length > 4 ? ' …' : ''}`
    : ''
  return `${time(night.opens)}: ${what}${lost}`
}

function move(by: number) {
  const last = props.nights.length - 1
  chosen.value = Math.min(last, Math.max(0, (chosen.value ?? (by > 0 ? -1 : last + 1)) + by))
}
</script>

<template>
  <div>
    <svg
      :viewBox="`0 0 ${nights.length * WIDE} ${HEIGHT + 22}`"
      class="nights"
      role="img"
      tabindex="0"
      preserveAspectRatio="none"
      :aria-label="`The coming ${nights.length} nights; left and right choose one`"
      @keydown.right.prevent="move(1)"
      @keydown.left.prevent="move(-1)"
      @mouseleave="chosen = undefined"
    >
      <line x1="0" y1="1" :x2="nights.length * WIDE" y2="1" class="room" />
      <g v-for="(n, i) in nights" :key="n.opens" @mouseenter="chosen = i">
        <rect
          :x="i * WIDE"
          y="0"
          :width="WIDE"
          :height="HEIGHT + 22"
          :class="{ on: chosen === i }"
          class="ground"
        />
        <rect
          :x="i * WIDE + 1.5"
          :y="HEIGHT - high(n)"
          :width="WIDE - 3"
          :height="high(n)"
          class="load"
          :class="{ full: load(n) > 0.9 }"
        />
        <path
          v-if="lapses[i]?.length"
          :d="`M${i * WIDE + 1} ${HEIGHT + 7} h${WIDE - 2} l${-(WIDE - 2) / 2} 11 z`"
          class="lapse"
        />
      </g>
      <line x1="0" :y1="HEIGHT" :x2="nights.length * WIDE" :y2="HEIGHT" class="floor" />
    </svg>
    <p class="small mono words" aria-live="polite">
      <template v-if="chosen !== undefined">{{ words(chosen) }}</template>
      <span v-else class="quiet">
        {{ nights[0] ? time(nights[0].opens) : '' }} to
        <Moment v-if="nights.length" :at="nights[nights.length - 1]?.opens ?? ''" /><template
          v-else
        ></template
        >. A column is a night, its height what drills take of it; a triangle below says that a
        proof lapses.
      </span>
    </p>
  </div>
</template>

<style scoped>
.nights {
  width: 100%;
  height: 110px;
  display: block;
}
.nights:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 2px;
}
.ground {
  fill: transparent;
}
.ground.on {
  fill: color-mix(in srgb, var(--accent) 14%, transparent);
}
.load {
  fill: var(--accent);
}
.load.full {
  fill: var(--lapsed);
}
.lapse {
  fill: var(--disproven);
}
.room,
.floor {
  stroke: var(--rule);
  vector-effect: non-scaling-stroke;
}
.room {
  stroke-dasharray: 4 4;
}
.words {
  min-height: 36px;
  margin: 4px 0 0;
}
</style>
