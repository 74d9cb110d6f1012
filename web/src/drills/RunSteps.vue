<script setup lang="ts">
import type { RunStep, RunView } from '@/api/types'
import { bytes, duration, words } from '@/wording/format'

/** The steps of a run, with progress while they run. */
defineProps<{ run: RunView; now: number }>()

const GLYPH: Record<string, string> = {
  done: '✓',
  failed: '✕',
  running: '▸',
  waiting: '·',
  skipped: '–',
}

function took(step: RunStep, now: number): string {
  if (!step.startedAt) return ''
  const end = step.endedAt ? Date.parse(step.endedAt) : now
  const passed = end - Date.parse(step.startedAt)
  return step.endedAt && passed < 1000 ? 'under 1 s' : duration(Math.max(0, passed))
}

function progress(step: RunStep, now: number): string {
  if (!step.totalBytes || !step.startedAt) return step.doneBytes ? bytes(step.doneBytes) : ''
  const passed = now - Date.parse(step.startedAt)
  const rate = passed > 500 ? (step.doneBytes / passed) * 1000 : 0
  const left = rate > 0 ? ((step.totalBytes - step.doneBytes) / rate) * 1000 : undefined
  return (
    `${bytes(step.doneBytes)} of ${bytes(step.totalBytes)}` +
    (rate ? `, ${bytes(Math.round(rate))} a second` : '') +
    (left !== undefined && left > 1000 ? `, about ${duration(left)} to go` : '')
  )
}
</script>

<template>
  <ol class="steps small">
    <li v-for="s in run.steps" :key="s.number" :class="s.state">
      <span class="glyph" aria-hidden="true">{{ GLYPH[s.state] }}</span>
      <span class="what">
        {{ s.name }}<span class="visually-hidden">: {{ words(s.state) }}</span>
        <span v-if="s.message" class="message">{{ s.message }}</span>
        <template v-if="s.state === 'running'">
          <v-progress-linear
            :indeterminate="!s.totalBytes"
            :model-value="s.totalBytes ? (100 * s.doneBytes) / s.totalBytes : 0"
            :aria-label="`${s.name}, progress`"
          />
          <span class="quiet mono">{{ progress(s, now) }}</span>
        </template>
      </span>
      <span class="mono quiet took">{{ took(s, now) }}</span>
    </li>
  </ol>
</template>

<style scoped>
.steps {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  padding: 2px 0;
}
.glyph {
  width: 14px;
  text-align: center;
  font-weight: 600;
  flex: none;
}
.what {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.message {
  display: block;
  color: var(--quiet);
}
.done .glyph {
  color: var(--proven);
}
.failed .glyph,
.failed .message {
  color: var(--disproven);
}
.waiting,
.skipped {
  color: var(--quiet);
}
.took {
  flex: none;
}
</style>
