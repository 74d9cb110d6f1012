<script setup lang="ts">
import { computed } from 'vue'
import type { RunView } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { bytes, duration, methodName, rungName, time, words } from '@/wording/format'

/** Two runs side by side: what was the same, and what was not. */
const props = defineProps<{ first: string; second: string }>()
defineEmits<{ close: [] }>()

const { data: a } = useServerData('/api/drill-runs/{id}', () => ({
  params: { path: { id: props.first } },
}))
const { data: b } = useServerData('/api/drill-runs/{id}', () => ({
  params: { path: { id: props.second } },
}))

function worked(r: RunView): string {
  const end = r.workedUntil ?? r.endedAt
  return r.startedAt && end ? duration(Date.parse(end) - Date.parse(r.startedAt)) : '–'
}

const ROWS: [string, (r: RunView) => string][] = [
  ['resource', (r) => r.resourceName],
  ['point', (r) => r.point],
  ['data of', (r) => (r.pointDataTime ? time(r.pointDataTime) : '–')],
  ['read from', (r) => r.storeName],
  ['method', (r) => methodName(r.method)],
  ['ended', (r) => (r.endedAt ? time(r.endedAt) : '–')],
  ['took', worked],
  ['read', (r) => bytes(r.bytes)],
  ['rate', (r) => (r.bytesPerSecond ? `${bytes(r.bytesPerSecond)} a second` : '–')],
  ['restore', (r) => words(r.restore)],
  ['checks', (r) => words(r.checks)],
  ['clean-up', (r) => words(r.cleanup)],
  ['shown', (r) => (r.passed ? rungName(r.reaches) : 'nothing')],
  ['newest data', (r) => (r.newestData ? time(r.newestData) : '–')],
  ['result', (r) => r.sentence],
]

const steps = computed(() => {
  const names = [...(a.value?.steps ?? []), ...(b.value?.steps ?? [])].map((s) => s.name)
  return [...new Set(names)].map((name) => ({
    name,
    first: a.value?.steps.find((s) => s.name === name),
    second: b.value?.steps.find((s) => s.name === name),
  }))
})

type Step = RunView['steps'][number]

function step(s: Step | undefined): string {
  if (!s) return 'no such step'
  const took =
    s.startedAt && s.endedAt ? `, ${duration(Date.parse(s.endedAt) - Date.parse(s.startedAt))}` : ''
  return `${words(s.state)}${took}${s.message ? `: ${s.message}` : ''}`
}
</script>

<template>
  <v-dialog :model-value="true" max-width="1000" @update:model-value="$emit('close')">
    <v-card title="Two runs compared">
      <v-card-text>
        <v-skeleton-loader v-if="!a || !b" type="paragraph" color="background" />
        <table v-else class="plain small pair">
          <tbody>
            <tr
              v-for="[name, value] in ROWS"
              :key="name"
              :class="{ differs: value(a) !== value(b) }"
            >
              <th scope="row">{{ name }}</th>
              <td>{{ value(a) }}</td>
              <td>{{ value(b) }}</td>
            </tr>
            <tr
              v-for="s in steps"
              :key="s.name"
              :class="{ differs: s.first?.state !== s.second?.state }"
            >
              <th scope="row">{{ s.name }}</th>
              <td>{{ step(s.first) }}</td>
              <td>{{ step(s.second) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="small quiet">What differs is marked by a bar at its left.</p>
      </v-card-text>
      <v-card-actions><v-btn @click="$emit('close')">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.pair {
  table-layout: fixed;
  width: 100%;
}
.pair th {
  text-align: left;
  font-weight: 400;
  color: var(--quiet);
  width: 26%;
  padding-left: 10px;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
  overflow-wrap: anywhere;
  vertical-align: top;
}
.pair .differs th {
  border-left-color: var(--accent);
  color: var(--ink);
}
.pair td {
  overflow-wrap: anywhere;
  vertical-align: top;
}
</style>
