<script setup lang="ts">
import { computed } from 'vue'
import type { LadderStrip } from '@/api/types'

/**
 * Five rungs as a climbing staircase: reached ones solid, a lapsed one hollow, a failed one struck
 * through, a flag on the one that is demanded.
 */
const props = defineProps<{ ladder: LadderStrip }>()

const WIDTH = 11
const GAP = 2

const rungs = computed(() =>
  [1, 2, 3, 4, 5].map((n) => {
    const height = 3 + n * 2.4
    const { rung, demanded, lapsed, failed } = props.ladder
    return {
      n,
      x: (n - 1) * (WIDTH + GAP),
      y: 20 - height,
      height,
      reached: n <= rung,
      lapsed: n > rung && lapsed !== undefined && n <= lapsed,
      failed: n === failed,
      demanded: n === demanded,
    }
  }),
)
</script>

<template>
  <svg
    class="ladder"
    viewBox="0 0 66 21"
    width="66"
    height="21"
    role="img"
    :aria-label="ladder.words"
  >
    <g v-for="r in rungs" :key="r.n">
      <rect
        :x="r.x + 0.5"
        :y="r.y"
        :width="WIDTH - 1"
        :height="r.height"
        :class="{ reached: r.reached, lapsed: r.lapsed, failed: r.failed }"
      />
      <path
        v-if="r.failed"
        :d="`M${r.x + 0.5} ${r.y + r.height}L${r.x + WIDTH - 0.5} ${r.y}`"
        class="strike"
      />
      <path v-if="r.demanded" :d="`M${r.x + 1} ${r.y}v-5l5 2l-5 2`" class="flag" />
    </g>
    <title>{{ ladder.words }}</title>
  </svg>
</template>

<style scoped>
.ladder {
  display: block;
  overflow: visible;
}
rect {
  fill: none;
  stroke: color-mix(in srgb, var(--quiet) 55%, transparent);
  stroke-width: 1;
}
.reached {
  fill: var(--ink);
  stroke: var(--ink);
}
.lapsed {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.failed {
  stroke: var(--disproven);
  stroke-width: 1.4;
}
.strike {
  stroke: var(--disproven);
  stroke-width: 1.8;
}
.flag {
  fill: var(--accent);
  stroke: var(--accent);
  stroke-width: 1;
}
</style>
