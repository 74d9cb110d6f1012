<script setup lang="ts">
import { computed } from 'vue'
import { share } from '@/wording/format'

/**
 * How a share went over equal parts of a period: a column each, whole when it was kept all the time. What
 * is missing stands over the column, so that little gaps are seen.
 */
const props = defineProps<{ shares: number[]; tier: number }>()
const WIDTH = 180
const HEIGHT = 34

const columns = computed(() => {
  const step = WIDTH / Math.max(1, props.shares.length)
  return props.shares.map((s, i) => ({
    x: i * step,
    width: step - 2,
    counted: s >= 0,
    height: Math.max(0, s) * (HEIGHT - 2),
    // A gap of a thousandth must not vanish.
    gap: s >= 0 && s < 1 ? Math.max(2, (1 - s) * (HEIGHT - 2)) : 0,
  }))
})
const label = computed(
  () =>
    `tier ${props.tier}, from the first to the last part of the period: ` +
    props.shares.map((s) => (s < 0 ? 'nothing counted' : share(s))).join(', '),
)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="label" class="course">
    <title>{{ label }}</title>
    <template v-for="c in columns" :key="c.x">
      <rect
        v-if="c.counted"
        :x="c.x"
        :y="HEIGHT - c.height"
        :width="c.width"
        :height="c.height"
        class="kept"
      />
      <rect v-if="c.gap" :x="c.x" y="0" :width="c.width" :height="c.gap" class="gap" />
    </template>
    <line x1="0" :y1="HEIGHT" :x2="WIDTH" :y2="HEIGHT" stroke="var(--rule-strong)" />
  </svg>
</template>

<style scoped>
.course {
  width: 180px;
  height: 34px;
  display: block;
}
.kept {
  fill: var(--accent);
  opacity: 0.45;
}
.gap {
  fill: var(--disproven);
}
</style>
