<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { RunView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import TakeAway from '@/frame/TakeAway.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import { count, relative } from '@/wording/format'
import DrillForm from './DrillForm.vue'
import ProgrammesAhead from './ProgrammesAhead.vue'
import RunLine from './RunLine.vue'
import RehearsalList from '@/rehearsals/RehearsalList.vue'
import RunComparison from './RunComparison.vue'
import RunUnderWay from './RunUnderWay.vue'
import SearchList from './SearchList.vue'
import { useRuns } from './useRuns'

const session = useSession()
const { lookingBack, when } = useAsAt()
const route = useRoute()
const router = useRouter()
const runs = useRuns()
const { data: calendar, refresh: refreshCalendar } = useServerData('/api/programmes', () => ({
  params: { query: when.value },
}))

const TABS = ['under-way', 'ahead', 'rehearsals', 'done'] as const
const tab = computed({
  get: () => TABS.find((t) => t === route.query.tab) ?? 'under-way',
  set: (t) => void router.replace({ query: { ...route.query, tab: t } }),
})
const mayWork = computed(() => session.mayWork && !lookingBack.value)
const { whyNotWork } = useMay()
const starting = ref(false)
/** What a list is searched for; null once it was cleared. A link to one run asks for it by its id. */
const find = ref<string | null>(
  route.query.tab === 'done' && typeof route.query.run === 'string' ? route.query.run : '',
)
const picked = ref<string[]>([])
const comparing = ref(false)
const { attempt, problem } = useAttempt()

/** The two that were picked last. */
function pick(id: string) {
  picked.value = picked.value.includes(id)
    ? picked.value.filter((p) => p !== id)
    : [...picked.value, id].slice(-2)
}

/** What works stands above what waits for somebody, which may be for days. */
const working = computed(() => runs.underWay.value.filter((r) => !r.awaits))
const waiting = computed(() => runs.underWay.value.filter((r) => r.awaits))

/** The run that was started from here stays in sight when it is over in a moment. */
const justEnded = computed(() => runs.done.value.filter((r) => r.id === route.query.run))

const found = computed(() => {
  const text = find.value?.trim().toLowerCase()
  return runs.done.value.filter(
    (r) =>
      !text ||
      `${r.id} ${r.resourceName} ${r.workloadName ?? ''} ${r.method} ${r.sentence} ${r.restore} ${r.checks}`
        .toLowerCase()
        .includes(text),
  )
})

function cancel(run: RunView) {
  return attempt(() =>
    answerOf(api.DELETE('/api/drill-runs/{id}', { params: { path: { id: run.id } } })),
  )
}

function nameOf(key: string): string {
  return calendar.value?.programmes.find((p) => p.key === key)?.says.name ?? key
}
</script>

<template>
  <div class="page">
    <div class="row-between top">
      <p class="lead">
        {{
          runs.underWay.value.length
            ? `${count(runs.underWay.value.length, 'drill is', 'drills are')} under way or waiting.`
            : 'Nothing is being proven at this moment.'
        }}
        <template v-if="calendar?.ahead[0]">
          Next: {{ calendar.ahead[0].name }}, {{ relative(calendar.ahead[0].due, runs.now.value) }}.
        </template>
      </p>
      <v-btn
        color="primary"
        variant="flat"
        :disabled="!mayWork"
        :title="whyNotWork"
        @click="starting = true"
        >New drill</v-btn
      >
    </div>
    <p v-if="problem || runs.problem.value" class="wrong" role="alert">
      {{ problem || runs.problem.value }}
    </p>

    <v-tabs v-model="tab" aria-label="Drills">
      <v-tab value="under-way">Under way {{ runs.underWay.value.length || '' }}</v-tab>
      <v-tab value="ahead">Ahead</v-tab>
      <v-tab value="rehearsals">Rehearsals</v-tab>
      <v-tab value="done">Done {{ runs.done.value.length || '' }}</v-tab>
    </v-tabs>

    <section v-if="tab === 'under-way'" aria-label="Under way">
      <v-skeleton-loader v-if="!runs.data.value" type="paragraph" color="background" />
      <p v-else-if="!runs.underWay.value.length && !justEnded.length" class="empty quiet">
        No drill runs or waits. Start one here or from a case file; programmes start theirs by
        themselves (see Ahead).
      </p>
      <SearchList :runs="runs.done.value" :may-work="mayWork" />
      <RunUnderWay
        v-for="r in working"
        :key="r.id"
        :run="r"
        :now="runs.now.value"
        :may-work="mayWork"
        :programme="r.programme ? nameOf(r.programme) : undefined"
        :why="runs.data.value?.waiting.find((w) => w.run === r.id)?.why"
        @cancel="cancel(r)"
      />
      <template v-if="justEnded.length">
        <h2 class="later">Just ended</h2>
        <RunLine v-for="r in justEnded" :key="r.id" :run="r" show-resource start-open />
      </template>
      <h2 v-if="waiting.length && (working.length || justEnded.length)" class="later">Waiting</h2>
      <RunUnderWay
        v-for="r in waiting"
        :key="r.id"
        :run="r"
        :now="runs.now.value"
        :may-work="mayWork"
        :programme="r.programme ? nameOf(r.programme) : undefined"
        :why="runs.data.value?.waiting.find((w) => w.run === r.id)?.why"
        @cancel="cancel(r)"
      />
    </section>

    <section v-else-if="tab === 'ahead'" aria-label="Ahead">
      <ProgrammesAhead
        :calendar="calendar"
        :now="runs.now.value"
        :may-work="mayWork"
        @changed="refreshCalendar"
      />
    </section>

    <section v-else-if="tab === 'rehearsals'" aria-label="Rehearsals">
      <RehearsalList
        :now="runs.now.value"
        :may-work="mayWork"
        :asked="String(route.query.rehearsal ?? '')"
      />
    </section>

    <section v-else aria-label="Done">
      <v-text-field
        v-model="find"
        class="find"
        placeholder="Find a resource, method or result"
        aria-label="Find a resource, method or result"
        clearable
      />
      <TakeAway v-if="found.length" name="drills" :rows="() => found" />
      <p v-if="picked.length" class="row picked">
        <v-btn :disabled="picked.length < 2" @click="comparing = true">Compare two runs</v-btn>
        <span class="quiet small">{{ picked.length }} of 2 picked; open a run to pick it</span>
      </p>
      <SearchList :runs="runs.done.value" :may-work="mayWork" ended />
      <p v-if="!runs.done.value.length" class="empty quiet">
        No drill has ended yet. Start one from a case file, or here.
      </p>
      <p v-else-if="!found.length" class="empty quiet">No run matches.</p>
      <RunLine
        v-for="r in found.slice(0, 300)"
        :key="r.id"
        :run="r"
        :others="runs.done.value"
        show-resource
        can-pick
        :picked="picked.includes(r.id)"
        :start-open="r.id === route.query.run"
        @pick="pick(r.id)"
      />
      <p v-if="found.length > 300" class="quiet small">
        The newest 300 of {{ found.length }}; find to narrow them.
      </p>
    </section>

    <RunComparison
      v-if="comparing && picked.length === 2"
      :first="picked[0] ?? ''"
      :second="picked[1] ?? ''"
      @close="comparing = false"
    />
    <DrillForm v-if="starting" :start="{}" @close="starting = false" />
  </div>
</template>

<style scoped>
.top {
  margin-bottom: 8px;
}
.lead {
  margin: 0;
}
section {
  padding-top: 10px;
}
.later {
  margin-top: 18px;
}
.find {
  max-width: 340px;
  margin-bottom: 8px;
}
.picked {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 0 0 8px;
}
.empty {
  padding: 18px 0;
}
.wrong {
  color: var(--disproven);
}
</style>
