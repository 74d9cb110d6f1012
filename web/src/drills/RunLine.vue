<script setup lang="ts">
import { ref, watch } from 'vue'
import { call, type RunView } from '@/api/client'
import { bytes, duration, relative, rungName, time, methodName } from '@/wording/format'
import RunAnswers from './RunAnswers.vue'
import RunSteps from './RunSteps.vue'

/** One run in a list; opens to its steps, which are fetched then. */
const props = defineProps<{ run: RunView; showResource?: boolean; startOpen?: boolean }>()

const open = ref(props.startOpen)
const whole = ref<RunView>()

watch(
  [open, () => props.run],
  async () => {
    if (open.value && (!whole.value || whole.value.restore !== props.run.restore)) {
      whole.value = await call<RunView>('GET', `drill-runs/${props.run.id}`)
    }
  },
  { immediate: true },
)

/** An interrupted or refused run says nothing about the data, so it gets no cross. */
function mark(run: RunView): { glyph: string; tone: string } {
  if (run.passed) return { glyph: '✓', tone: 'good' }
  if (!run.ended) return { glyph: '▸', tone: '' }
  const bad = run.restore === 'failed' || run.checks === 'failed' || run.checks === 'timed-out'
  return bad ? { glyph: '✕', tone: 'bad' } : { glyph: '–', tone: 'quiet' }
}

function took(run: RunView): string {
  return run.startedAt && run.endedAt
    ? duration(Date.parse(run.endedAt) - Date.parse(run.startedAt))
    : ''
}
</script>

<template>
  <details class="run" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>
      <span class="glyph" :class="mark(run).tone" aria-hidden="true">{{ mark(run).glyph }}</span>
      <span class="main">
        <span>
          <b v-if="showResource" class="mono">{{ run.resourceName }}</b>
          {{ showResource ? '' : run.resourceName }} {{ methodName(run.method) }}
          <span class="quiet">from {{ run.storeName }}</span>
          <template v-if="run.passed"> · shown {{ rungName(run.reaches) }}</template>
        </span>
        <span v-if="run.sentence" class="small quiet sentence">{{ run.sentence }}</span>
      </span>
      <span class="small quiet nowrap" :title="run.endedAt ?? run.queuedAt">{{
        run.endedAt ? relative(run.endedAt) : 'under way'
      }}</span>
    </summary>
    <div class="inside">
      <RunAnswers :run="run" />
      <p class="small quiet">
        point <span class="mono">{{ run.point }}</span><template v-if="run.pointDataTime"
          >, data of {{ time(run.pointDataTime) }}</template
        >
        · {{ run.programme ? `programme ${run.programme}` : `asked by ${run.requestedBy}` }}:
        {{ run.reason }}
        <template v-if="run.endedAt">
          · ended {{ time(run.endedAt) }}, took {{ took(run) }}</template
        >
        <template v-if="run.bytes"> · {{ bytes(run.bytes) }} read</template
        ><template v-if="run.bytesPerSecond">, {{ bytes(run.bytesPerSecond) }} a second</template>
      </p>
      <p v-if="run.holdUntil" class="small">
        restored data is held until {{ time(run.holdUntil) }}
      </p>
      <RunSteps v-if="whole" :run="whole" :now="Date.now()" />
    </div>
  </details>
</template>

<style scoped>
.run {
  border-bottom: 1px solid var(--rule);
}
summary {
  display: flex;
  gap: 8px;
  padding: 5px 0;
  cursor: pointer;
  list-style: none;
  align-items: baseline;
}
summary::-webkit-details-marker {
  display: none;
}
.main {
  flex: 1;
  min-width: 0;
  display: grid;
}
.sentence {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
details[open] .sentence {
  white-space: normal;
  overflow-wrap: anywhere;
}
.glyph {
  width: 16px;
  text-align: center;
  font-weight: 600;
  flex: none;
}
.good {
  color: var(--proven);
}
.bad {
  color: var(--disproven);
}
.inside {
  padding: 2px 0 10px 24px;
}
p {
  margin: 2px 0;
}
</style>
