<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { ActionStep, Method } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import RunLine from '@/drills/RunLine.vue'
import { useRuns } from '@/drills/useRuns'
import { useAsAt } from '@/frame/useAsAt'
import TideTable from '@/order/TideTable.vue'
import RehearsalForm from '@/rehearsals/RehearsalForm.vue'
import { useMay } from '@/people/useMay'
import { count, duration, relative, words } from '@/wording/format'
import CaseOutcomes from './CaseOutcomes.vue'
import CopyFigures from './CopyFigures.vue'
import ExposureCurve from './ExposureCurve.vue'
import VerdictMark from './VerdictMark.vue'

/** Everything about one workload: its verdict, why, what would change it, and what it rests on. */
const props = defineProps<{ workload: string; mayDrill: boolean }>()
const emit = defineEmits<{
  close: []
  drill: [start: { resource: string; point?: string; method?: Method }]
}>()

const { asAt, when, lookingBack } = useAsAt()
const { data, problem, refresh } = useServerData('/api/workloads/{key}', () => ({
  params: { path: { key: props.workload }, query: when.value },
}))
const { underWay, done } = useRuns()
useEvents({ facts: () => void refresh() })

const { whyNotWork } = useMay()
const rehearsing = ref(false)
const { data: rehearsals, refresh: refreshRehearsals } = useServerData('/api/rehearsals', () => ({
  params: { query: { workload: props.workload } },
}))
useEvents({ rehearsal: () => void refreshRehearsals() })
const rehearsal = computed(() =>
  rehearsals.value?.done.find(
    (r) => !lookingBack.value || Date.parse(r.endedAt ?? '') <= Date.parse(asAt.value),
  ),
)
const chosen = ref('')
watch(data, (file) => {
  if (file && !file.members.some((m) => m.key === chosen.value)) {
    chosen.value = file.causes[0]?.resource ?? file.members[0]?.key ?? ''
  }
})
const member = computed(() => data.value?.members.find((m) => m.key === chosen.value))

const drills = computed(() => {
  const keys = new Set(data.value?.members.flatMap((m) => [m.key, m.protector]))
  return [...underWay.value, ...done.value].filter(
    (r) =>
      keys.has(r.resource) &&
      (!lookingBack.value || (!!r.endedAt && Date.parse(r.endedAt) <= Date.parse(asAt.value))),
  )
})

const { data: verdicts } = useServerData('/api/workloads/{key}/verdicts', () => ({
  params: { path: { key: props.workload }, query: when.value },
}))
const { data: next } = useServerData('/api/resources/{key}/next-to-go', () =>
  chosen.value ? { params: { path: { key: chosen.value }, query: when.value } } : undefined,
)

const otherCauses = computed(() => {
  const first = data.value?.workload.sentence
  return [
    ...new Set(data.value?.causes.filter((c) => c.verdict !== 'proven').map((c) => c.sentence)),
  ].filter((s) => s !== first)
})

function act(action: ActionStep) {
  emit('drill', { resource: action.resource, point: action.point, method: action.method })
}

function drillThis() {
  if (!props.mayDrill || !member.value) return
  emit('drill', { resource: member.value.protector })
}

defineExpose({ drillThis })
</script>

<template>
  <div class="case">
    <div v-if="problem" class="part" role="alert">
      <p class="wrong">{{ problem }}</p>
      <v-btn @click="refresh">Try again</v-btn>
      <v-btn class="ml-2" @click="emit('close')">Close</v-btn>
    </div>
    <v-skeleton-loader v-else-if="!data" type="heading, paragraph, image" color="surface" />
    <template v-else>
      <section class="part">
        <div class="row-between">
          <h1>{{ data.workload.name }}</h1>
          <button class="close" aria-label="Close the case file" title="Esc" @click="emit('close')">
            ×
          </button>
        </div>
        <p class="small quiet">
          {{ data.workload.tier ? `tier ${data.workload.tier}` : 'tier not known, held to tier 1' }}
          · {{ data.workload.owner ?? 'owner not known' }} ·
          {{ count(data.members.length, 'member', 'members') }}
          <template v-if="data.workload.unassigned"> · belongs to no workload</template>
        </p>
        <p class="verdict">
          <VerdictMark :verdict="data.workload.verdict" /><span
            >: {{ data.workload.sentence }}.</span
          >
        </p>
        <ul v-if="otherCauses.length" class="causes">
          <li v-for="c in otherCauses" :key="c">{{ c }}</li>
        </ul>
        <template v-if="data.actions.length">
          <h2 class="to-do">What would change it</h2>
          <ol class="actions">
            <li v-for="(a, i) in data.actions" :key="i">
              <span>{{ a.sentence }}</span>
              <v-btn
                v-if="a.type === 'drill'"
                :color="i === 0 ? 'primary' : undefined"
                :disabled="!mayDrill"
                :title="whyNotWork"
                @click="act(a)"
                >Drill</v-btn
              >
            </li>
          </ol>
        </template>
      </section>

      <section class="part" aria-label="Members">
        <div class="members" role="tablist" aria-label="Members of the workload">
          <button
            v-for="m in data.members"
            :key="m.key"
            role="tab"
            :aria-selected="m.key === chosen"
            @click="chosen = m.key"
          >
            <VerdictMark :verdict="m.verdict" glyph-only />{{ m.name }}
          </button>
        </div>
        <template v-if="member">
          <div class="row-between">
            <p class="small quiet">
              {{ words(member.kind) }}<template v-if="member.site"> · {{ member.site }}</template>
              <template v-if="member.protector !== member.key">
                · protected by the image of {{ member.protector }}</template
              >
              · {{ member.policies.join(', ') || 'no policy' }} · copies
              <CopyFigures :figures="member.copies" />
            </p>
            <v-btn :disabled="!mayDrill" :title="whyNotWork || 'd'" @click="drillThis"
              >Drill this</v-btn
            >
          </div>
          <p v-for="e in member.exceptions" :key="e.key" class="small">
            Excepted<template v-if="e.criterion"> from {{ words(e.criterion) }}</template
            >: {{ e.reason }} (approved by {{ e.approvedBy
            }}<template v-if="e.until">, until {{ e.until.slice(0, 10) }}</template
            >)
          </p>
        </template>
      </section>

      <section v-if="member" class="part">
        <ExposureCurve :key="member.key" :resource="member.key" :when="when" />
        <p v-if="member.recovery" class="small">
          <b>To have it back</b>, alone and from its newest usable point: {{ member.recovery }}.
        </p>
      </section>
      <section v-if="member" class="part">
        <CaseOutcomes :member="member" />
      </section>

      <section v-if="!data.workload.unassigned" class="part" aria-label="Order of recovery">
        <TideTable :key="workload" :workload="workload" :when="when" />
        <div class="row-between">
          <p class="small">
            <template v-if="rehearsal"
              >Last rehearsed {{ relative(rehearsal.endedAt ?? rehearsal.queuedAt)
              }}<template v-if="rehearsal.loss">, from what {{ rehearsal.loss }} leaves</template>:
              {{ rehearsal.sentence }}.
              <router-link
                :to="{ name: 'drills', query: { tab: 'rehearsals', rehearsal: rehearsal.id } }"
                >Planned beside measured</router-link
              ></template
            ><span v-else class="quiet">It was never brought back whole.</span>
          </p>
          <v-btn :disabled="!mayDrill" :title="whyNotWork" @click="rehearsing = true"
            >Rehearse the whole</v-btn
          >
        </div>
        <RehearsalForm
          v-if="rehearsing"
          :workload="workload"
          :name="data.workload.name"
          @close="rehearsing = false"
        />
      </section>

      <section v-if="verdicts && verdicts.length > 1" class="part">
        <details>
          <summary>
            <h2 class="inline">How the verdict moved</h2>
            <span class="small quiet"> {{ count(verdicts.length, 'time', 'times') }}</span>
          </summary>
          <p v-for="(v, i) in [...verdicts].reverse()" :key="i" class="small">
            <span class="mono"><Moment :at="v.at" /></span> <VerdictMark :verdict="v.verdict" />
            <span class="quiet">{{ v.sentence }}</span>
          </p>
        </details>
      </section>
      <section v-if="next?.points.length" class="part">
        <details>
          <summary>
            <h2 class="inline">What goes next</h2>
            <span class="small quiet">
              of {{ member?.name }}, kept by {{ next.policy ?? 'no policy' }}</span
            >
          </summary>
          <p class="small">
            <template v-for="(r, i) in next.reach" :key="r.day"
              ><template v-if="i"> · </template>{{ i ? relative(r.day) : 'now' }}:
              {{ r.reachMs === undefined ? 'nothing' : duration(r.reachMs) }}</template
            >
            <span class="quiet"> of reach are left of the points there are</span>
          </p>
          <p v-for="p in next.points.slice(0, 8)" :key="p.point" class="small">
            <span class="mono">{{ p.point }}</span>
            <span class="quiet">
              {{ p.leaves ? `goes ${relative(p.leaves)}` : 'nothing says when it goes' }}</span
            >
          </p>
        </details>
      </section>

      <section class="part">
        <div class="row-between">
          <h2>Drills</h2>
          <span class="small quiet">{{ count(drills.length, 'run', 'runs') }}</span>
        </div>
        <p v-if="!drills.length" class="small quiet">
          No member was ever drilled: what the jobs say is a claim.
        </p>
        <RunLine v-for="r in drills.slice(0, 12)" :key="r.id" :run="r" :others="drills" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.part {
  padding: 12px 18px 14px;
  border-bottom: 1px solid var(--rule);
}
h1 {
  font-size: 17px;
}
p {
  margin: 2px 0;
}
.close {
  font: 22px/1 var(--sans);
  color: var(--quiet);
  background: none;
  border: 0;
  cursor: pointer;
}
.verdict {
  margin: 8px 0 4px;
  overflow-wrap: anywhere;
}
.causes {
  margin: 4px 0 4px 18px;
  font-size: 13px;
  color: var(--quiet);
}
.to-do {
  margin-top: 10px;
}
.actions {
  margin: 4px 0 0 18px;
  font-size: 13px;
}
.actions li {
  padding: 2px 0;
}
.actions .v-btn {
  margin-left: 8px;
}
.members {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-bottom: 6px;
}
.members button {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  font: 500 13px var(--mono);
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  padding: 3px 0;
  cursor: pointer;
}
.members button[aria-selected='true'] {
  border-bottom-color: var(--accent);
}
.wrong {
  color: var(--disproven);
}
summary {
  cursor: pointer;
}
.inline {
  display: inline;
  margin-right: 6px;
}
</style>
