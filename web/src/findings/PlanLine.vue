<script setup lang="ts">
import { computed } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { PlanStep } from '@/api/types'
import { count } from '@/wording/format'

/** One thing to do, why, what it comes to, and the findings behind it. */
const props = defineProps<{ step: PlanStep; place: number; mayAct: boolean; whyNot?: string }>()
defineEmits<{ act: []; show: [finding: string] }>()

const ACTS: Record<PlanStep['remedy'], string> = {
  cover: 'Put under a policy',
  drill: 'Drill',
  programme: 'Open a programme',
  screen: 'To the screen',
  point: 'Look',
  copy: 'Look',
  policy: 'To the policies',
  owner: 'To the feeds',
  feed: 'To the feeds',
  exception: 'To the exceptions',
  look: 'Look',
}
const changes = computed(() => ['cover', 'drill', 'programme'].includes(props.step.remedy))
const label = computed(() =>
  props.step.remedy === 'drill' && props.step.resources.length > 1
    ? `Drill all ${props.step.resources.length}`
    : ACTS[props.step.remedy],
)
</script>

<template>
  <li class="step">
    <span class="mono place">{{ place }}</span>
    <div class="what">
      <b>{{ step.todo }}</b>
      <p class="small">{{ step.what }}</p>
      <details class="small">
        <summary>{{ count(step.findings, 'finding', 'findings') }} behind it</summary>
        <ul>
          <li v-for="b in step.behind" :key="b.key">
            <button type="button" class="link" @click="$emit('show', b.key)">{{ b.name }}</button>
            {{ b.title }}: {{ b.sentence
            }}<span v-if="b.follows" class="quiet"> (follows from another)</span>
          </li>
        </ul>
        <p v-if="step.findings > step.behind.length" class="quiet">
          The first {{ step.behind.length }} are shown.
        </p>
      </details>
    </div>
    <div class="effect small">
      {{ step.effect }}
      <p v-if="step.night" class="quiet">done by the night of <Moment :at="step.night" /></p>
    </div>
    <v-btn
      :disabled="changes && !mayAct"
      :title="changes ? whyNot : undefined"
      @click="$emit('act')"
      >{{ label }}</v-btn
    >
  </li>
</template>

<style scoped>
.step {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) minmax(120px, 250px) 150px;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
  align-items: start;
}
.step > :last-child {
  justify-self: end;
}
.place {
  text-align: right;
}
.what p,
.effect p {
  margin: 2px 0;
}
.what > p {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
ul {
  padding-left: 18px;
  margin: 4px 0;
}
summary {
  cursor: pointer;
}
</style>
