<script setup lang="ts">
import { computed } from 'vue'

/** A line without axes: what matters is where it goes. The figures stand in its label. */
const props = defineProps<{ values: number[]; label: string }>()
const WIDTH = 420
const HEIGHT = 56

const points = computed(() => {
  const top = Math.max(...props.values, 1)
  return props.values
    .map((v, i) => {
      const x = (i / Math.max(1, props.values.length - 1)) * (WIDTH - 4) + 2
      return `${x.toFixed(1)},${(HEIGHT - 4 - (v / top) * (HEIGHT - 8)).toFixed(1)}`
    })
    .join(' ')
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="label" class="trend">
    <line x1="0" :y1="HEIGHT - 3" :x2="WIDTH" :y2="HEIGHT - 3" stroke="var(--rule)" />
    <polyline :points="points" fill="none" stroke="var(--accent)" stroke-width="2" />
  </svg>
  <p class="small quiet">{{ label }}</p>
</template>

<style scoped>
.trend {
  width: 100%;
  max-width: 420px;
  display: block;
  margin-top: 4px;
}
p {
  margin: 0 0 8px;
}
</style>
