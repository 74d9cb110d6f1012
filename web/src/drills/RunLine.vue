<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import { now as clockNow } from '@/wording/clock'
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { RunView } from '@/api/types'
import { bytes, duration, relative, rungName, methodName } from '@/wording/format'
import RunAnswers from './RunAnswers.vue'
import RunFiles from './RunFiles.vue'
import RunScreens from './RunScreens.vue'
import RunSteps from './RunSteps.vue'
import SearchForm from './SearchForm.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'

/** One run in a list; opens to its steps, which are fetched then. */
const props = defineProps<{
  run: RunView
  showResource?: boolean
  startOpen?: boolean
  /** Other runs, of which those of the same resource that hold what they restored can be compared. */
  others?: RunView[]
  /** Whether it is picked for a comparison; without a box to pick it if not given. */
  picked?: boolean
  canPick?: boolean
}>()
const emit = defineEmits<{ pick: [] }>()
const session = useSession()
const { lookingBack } = useAsAt()
const searching = ref(false)

const open = ref(props.startOpen)
const whole = ref<RunView>()

watch(
  [open, () => props.run],
  async () => {
    if (open.value && (!whole.value || whole.value.restore !== props.run.restore)) {
      whole.value = await answerOf(
        api.GET('/api/drill-runs/{id}', { params: { path: { id: props.run.id } } }),
      )
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
  const end = run.workedUntil ?? run.endedAt
  return run.startedAt && end ? duration(Date.parse(end) - Date.parse(run.startedAt)) : ''
}

const mayWork = computed(() => session.mayWork && !lookingBack.value)
const trees = ['full-restore', 'sample-restore', 'container-application']
const failed = computed(() => mark(props.run).tone === 'bad')
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
          >, data of <Moment :at="run.pointDataTime"
        /></template>
        · {{ run.programme ? `programme ${run.programme}` : `asked by ${run.requestedBy}` }}:
        {{ run.reason }}
        <template v-if="run.endedAt">
          · ended <Moment :at="run.endedAt" />, took {{ took(run) }}</template
        >
        <template v-if="run.bytes"> · {{ bytes(run.bytes) }} read</template
        ><template v-if="run.bytesPerSecond">, {{ bytes(run.bytesPerSecond) }} a second</template>
      </p>
      <p v-if="run.newestData && run.pointDataTime" class="small">
        newest data inside is of <Moment :at="run.newestData" />: what would really be lost is
        {{ duration(Math.abs(Date.parse(run.pointDataTime) - Date.parse(run.newestData))) }}
        {{ Date.parse(run.newestData) > Date.parse(run.pointDataTime) ? 'less' : 'more' }} than the
        point promises
      </p>
      <p v-if="run.holdUntil && run.cleanup === 'holding'" class="small">
        restored data is held until <Moment :at="run.holdUntil" />
      </p>
      <p v-if="canPick || (failed && mayWork)" class="row small">
        <label v-if="canPick" class="pick"
          ><input type="checkbox" :checked="picked" @change="emit('pick')" /> compare</label
        >
        <button v-if="failed && mayWork" class="link" @click="searching = true">
          Find the last good point
        </button>
      </p>
      <RunScreens v-if="open && run.method === 'boot'" :run="run" :may-work="mayWork" />
      <RunFiles
        v-if="open && run.cleanup === 'holding' && trees.includes(run.method)"
        :run="run"
        :others="others ?? []"
        :may-work="mayWork"
      />
      <RunSteps v-if="whole" :run="whole" :now="clockNow()" />
      <SearchForm
        v-if="searching"
        :resource="run.resource"
        :name="run.resourceName"
        :method="run.method"
        @close="searching = false"
        @begun="searching = false"
      />
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
.row {
  display: flex;
  gap: 14px;
}
.pick {
  cursor: pointer;
}
</style>
