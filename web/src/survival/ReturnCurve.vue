<script setup lang="ts">
import { computed } from 'vue'
import type { FateLine } from '@/api/types'
import { scaleOf } from '@/order/tideScale'
import { duration } from '@/wording/format'
import { returns } from './loss'

/** Which share of the workloads is back when. */
const props = defineProps<{ lines: FateLine[] }>()
const WIDE = 690
const HIGH = 110

const steps = computed(() => returns(props.lines))
const last = computed(() => steps.value[steps.value.length - 1])
const scale = computed(() => scaleOf(last.value?.ms ?? 0, 0))
const x = (ms: number) => (WIDE * ms) / scale.value.end
const y = (share: number) => HIGH * (1 - share)
const path = computed(() => {
  let d = `M0 ${HIGH}`
  let before = 0
  for (const s of steps.value) {
    d += ` L${x(s.ms).toFixed(1)} ${y(before).toFixed(1)} L${x(s.ms).toFixed(1)} ${y(s.share).toFixed(1)}`
    before = s.share
  }
  return `${d} L${WIDE} ${y(before).toFixed(1)}`
})
const percent = (share: number) => `${Math.floor(100 * share)} %`
const words = computed(() =>
  last.value
    ? `${percent(last.value.share)} of the workloads are back after ${duration(last.value.ms)}; half after ${duration(
        steps.value.find((s) => s.share >= 0.5)?.ms ?? last.value.ms,
      )}`
    : 'No workload comes back',
)
</script>

<template>
  <figure>
    <figcaption class="small quiet">
      Back over time<template v-if="last"
        >: {{ percent(last.share) }} after {{ duration(last.ms) }}</template
      >
    </figcaption>
    <svg :viewBox="`0 0 ${WIDE} ${HIGH + 18}`" role="img" :aria-label="words">
      <line x1="0" :x2="WIDE" y1="0" y2="0" class="rule" />
      <line x1="0" :x2="WIDE" :y1="HIGH / 2" :y2="HIGH / 2" class="rule" />
      <line x1="0" :x2="WIDE" :y1="HIGH" :y2="HIGH" class="ground" />
      <path :d="path" class="curve" />
      <text
        v-for="t in scale.ticks"
        :key="t"
        :x="x(t)"
        :y="HIGH + 14"
        :text-anchor="t ? 'middle' : 'start'"
      >
        {{ t ? duration(t) : '0' }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  overflow: visible;
}
.rule {
  stroke: var(--rule);
}
.ground {
  stroke: var(--ink);
}
.curve {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
}
text {
  font: 11px var(--mono);
  fill: var(--quiet);
}
</style>
