<script setup lang="ts">
import { computed } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import TakeAway from '@/frame/TakeAway.vue'
import { duration } from '@/wording/format'
import RehearsalCard from './RehearsalCard.vue'

/** Rehearsals that wait or go on, and those that have ended; the one that was asked for is open. */
const props = defineProps<{ now: number; mayWork: boolean; asked?: string }>()

const SHOWN = 20
const { data, problem: loading, refresh } = useServerData('/api/rehearsals', () => ({}))
useEvents({ rehearsal: () => void refresh(), facts: () => void refresh() })
const { attempt, problem } = useAttempt()

const first = computed(() => data.value?.done.find((r) => r.id === props.asked))
const others = computed(() => data.value?.done.filter((r) => r.id !== props.asked) ?? [])
const table = computed(() =>
  (data.value?.done ?? []).map((r) => ({
    workload: r.workloadName,
    outcome: r.outcome ?? '',
    left_out: r.loss ?? '',
    started: r.startedAt ?? '',
    took: r.clockMs === undefined ? '' : duration(r.clockMs),
    rto: duration(r.rtoMs),
    what: r.sentence,
  })),
)

const cancel = (id: string) =>
  attempt(() => answerOf(api.DELETE('/api/rehearsals/{id}', { params: { path: { id } } })))
</script>

<template>
  <p v-if="problem || loading" class="wrong" role="alert">{{ problem || loading }}</p>
  <v-skeleton-loader v-if="!data && !loading" type="paragraph" color="background" />
  <template v-else-if="data">
    <p v-if="!data.underWay.length && !data.done.length" class="empty quiet">
      No workload was ever brought back whole. Open the case file of one and rehearse it: all its
      members come back in their order, stay up together, and the clock is held to the RTO.
    </p>
    <RehearsalCard
      v-for="r in data.underWay"
      :key="r.id"
      :rehearsal="r"
      :now="now"
      :may-work="mayWork"
      @cancel="cancel(r.id)"
    />
    <RehearsalCard v-if="first" :key="first.id" :rehearsal="first" :now="now" :may-work="mayWork" />
    <div v-if="others.length" class="row-between later">
      <h2>Ended</h2>
      <TakeAway :rows="() => table" name="rehearsals" />
    </div>
    <RehearsalCard
      v-for="r in others.slice(0, SHOWN)"
      :key="r.id"
      :rehearsal="r"
      :now="now"
      :may-work="mayWork"
    />
    <p v-if="others.length > SHOWN" class="quiet small">
      The newest {{ SHOWN }} of {{ others.length }}; CSV and JSON have all.
    </p>
  </template>
</template>

<style scoped>
.later {
  margin-top: 18px;
}
.empty {
  padding: 18px 0;
}
.wrong {
  color: var(--disproven);
}
</style>
