<script setup lang="ts">
import type { Verification } from '@/api/types'

/** What was checked of a pack, line by line. */
defineProps<{ checks: Verification['checks'] }>()
</script>

<template>
  <p v-for="c in checks" :key="c.name" class="small">
    <b :class="c.passed ? 'good' : 'wrong'">{{ c.passed ? '✓' : '✕' }} {{ c.name }}</b>
    {{ c.sentence }}
  </p>
</template>

<style scoped>
p {
  margin: 1px 0;
  overflow-wrap: anywhere;
}
.good {
  color: var(--proven);
}
.wrong {
  color: var(--disproven);
}
</style>
