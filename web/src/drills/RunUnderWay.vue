<script setup lang="ts">
import type { RunView } from '@/api/types'
import { duration, methodName, time } from '@/wording/format'
import RunAnswers from './RunAnswers.vue'
import RunScreens from './RunScreens.vue'
import RunSteps from './RunSteps.vue'

/** A run that works or waits, with all its steps. */
const props = defineProps<{
  run: RunView
  now: number
  mayWork: boolean
  programme?: string
  /** Why it does not begin now. */
  why?: string
}>()
defineEmits<{ cancel: [] }>()

function state(): string {
  const run = props.run
  if (run.awaits === 'person') return 'waits for somebody who knows its screen'
  if (run.awaits) {
    const until = run.awaitUntil ? `, until ${time(run.awaitUntil)}` : ''
    return `waits for an answer from outside${until}`
  }
  return run.startedAt
    ? `running for ${duration(Math.max(0, props.now - Date.parse(run.startedAt)))}`
    : `waiting: ${props.why ?? 'its turn comes'}`
}
</script>

<template>
  <article class="block">
    <div class="row-between">
      <h2>
        <span class="mono">{{ run.resourceName }}</span> {{ methodName(run.method) }} from
        {{ run.storeName }}
      </h2>
      <v-btn v-if="mayWork" @click="$emit('cancel')">Cancel this drill</v-btn>
    </div>
    <p class="small quiet">
      {{ run.workloadName ?? 'belongs to no workload' }} · point
      <span class="mono">{{ run.point }}</span> ·
      {{ programme ? `programme ${programme}` : `asked by ${run.requestedBy}` }}: {{ run.reason }} ·
      {{ state() }}
    </p>
    <RunAnswers :run="run" />
    <RunScreens v-if="run.method === 'boot'" :run="run" :may-work="mayWork" />
    <RunSteps :run="run" :now="now" />
  </article>
</template>

<style scoped>
p {
  margin: 2px 0;
}
</style>
