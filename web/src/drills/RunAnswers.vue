<script setup lang="ts">
import { computed } from 'vue'
import type { ChecksState, CleanupState, RestoreState, RunView } from '@/api/types'
import { words } from '@/wording/format'

/** The three separate answers of a run: restore, checks, clean-up. */
const props = defineProps<{ run: RunView }>()

type Answer = RestoreState | ChecksState | CleanupState
const BAD = new Set<Answer>(['failed', 'timed-out', 'refused', 'interrupted'])
const GOOD = new Set<Answer>(['done', 'passed'])

const answers = computed((): [string, Answer][] => [
  ['restore', props.run.restore],
  ['checks', props.run.checks],
  ['clean-up', props.run.cleanup],
])

function tone(state: Answer): string {
  return BAD.has(state) ? 'bad' : GOOD.has(state) ? 'good' : ''
}
</script>

<template>
  <span class="answers small">
    <span v-for="[name, state] in answers" :key="name">
      <span class="quiet">{{ name }}</span>
      <b :class="tone(state)">{{ words(state) }}</b>
    </span>
  </span>
</template>

<style scoped>
.answers {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
b {
  font-weight: 600;
  margin-left: 4px;
}
.bad {
  color: var(--disproven);
}
.good {
  color: var(--proven);
}
</style>
