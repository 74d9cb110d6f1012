<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { LossDraft, PlannedRehearsal, RehearsalDraft } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import { bytes, count, duration, time } from '@/wording/format'
import TideBars from './TideBars.vue'
import { barsOfPlan } from './tideBars'

/** A rehearsal of a workload on one page: what it brings back, in which order and from what, before anything starts. */
const props = defineProps<{
  workload: string
  name: string
  /** What is left out as if it were lost, with its words. */
  loss?: LossDraft
  lossWords?: string
}>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()

const reason = ref('')
const moment = ref('')
const atOnce = ref<number>()
const stay = ref(60)
const hold = ref(0)
const plan = ref<PlannedRehearsal>()
const planning = useAttempt()
const { attempt, busy, problem: starting } = useAttempt()
const problem = computed(() => starting.value || planning.problem.value)

const AT_ONCE = [1, 2, 3, 4, 8, 16].map((n) => ({ title: `${n} at once`, value: n }))
const STAYS = [
  { title: 'not after the last check', value: 0 },
  { title: '1 minute more', value: 60 },
  { title: '5 minutes more', value: 300 },
  { title: '15 minutes more', value: 900 },
]
const HOLDS = [
  { title: 'remove at the end', value: 0 },
  { title: 'hold for 1 hour', value: 60 },
  { title: 'hold for 8 hours', value: 480 },
  { title: 'hold for 2 days', value: 2880 },
]

function draft(): RehearsalDraft {
  const at = moment.value ? new Date(moment.value) : undefined
  return {
    workload: props.workload,
    moment: at && !Number.isNaN(at.getTime()) ? at.toISOString() : undefined,
    atOnce: atOnce.value,
    loss: props.loss,
    staySeconds: stay.value,
    holdMinutes: hold.value,
    reason: reason.value,
  }
}

watch(
  [moment, atOnce, stay, hold],
  () =>
    planning.latest(
      () => answerOf(api.POST('/api/rehearsal-plans', { body: draft() })),
      (answer) => (plan.value = answer),
    ),
  { immediate: true },
)

const bars = computed(() => (plan.value ? barsOfPlan(plan.value) : []))

const begin = () =>
  attempt(async () => {
    const begun = await answerOf(api.POST('/api/rehearsals', { body: draft() }))
    emit('close')
    await router.push({ name: 'drills', query: { tab: 'rehearsals', rehearsal: begun.id } })
  })
</script>

<template>
  <FormDialog
    :title="`Rehearse ${name}`"
    action="Start the rehearsal"
    :ready="!!plan && !plan.refusal && !!reason.trim()"
    :busy="busy"
    :problem="problem"
    :hint="reason.trim() ? undefined : 'Say why it is rehearsed'"
    @close="emit('close')"
    @submit="begin"
  >
    <p v-if="lossWords" class="small">
      From what is left after the loss of <b>{{ lossWords }}</b> only.
    </p>
    <v-text-field
      v-model="reason"
      label="Reason (stands in the evidence)"
      maxlength="300"
      autofocus
    />
    <div class="pair">
      <v-text-field v-model="moment" type="datetime-local" label="Moment (now where left out)" />
      <v-select
        :model-value="atOnce ?? plan?.atOnce"
        :items="AT_ONCE"
        label="Members"
        @update:model-value="atOnce = $event"
      />
    </div>
    <div class="pair">
      <v-select v-model="stay" :items="STAYS" label="All stay up" />
      <v-select v-model="hold" :items="HOLDS" label="Restored data" />
    </div>
    <template #beside>
      <div v-if="plan" class="plan">
        <p v-if="plan.refusal" class="wrong" role="alert">
          Not possible like this: {{ plan.refusal }}
        </p>
        <p v-else>{{ plan.sentence[0]?.toUpperCase() }}{{ plan.sentence.slice(1) }}.</p>
        <TideBars v-if="bars.length" :bars="bars" :rto-ms="plan.rtoMs" />
        <p v-if="plan.spreadMs !== undefined" class="small">
          All of the moment {{ time(plan.moment) }}: between the oldest and the newest data lie
          {{ duration(plan.spreadMs) }}.
        </p>
        <template v-if="!plan.refusal">
          <p class="small">
            It will read <b class="mono">{{ bytes(plan.readBytes) }}</b> and take
            <b class="mono">{{ bytes(plan.spaceBytes) }}</b> of {{ bytes(plan.freeBytes) }} free:
            what is up stays up until the end.
          </p>
          <p v-for="note in plan.notes" :key="note" class="small">{{ note }}</p>
          <details v-if="plan.besides.length" class="small">
            <summary>What a real recovery needs besides the data</summary>
            <ul>
              <li v-for="b in plan.besides" :key="b">{{ b }}</li>
            </ul>
          </details>
          <details class="small">
            <summary>{{ count(plan.members.length, 'member', 'members') }}, from what</summary>
            <ul>
              <li v-for="m in plan.members" :key="m.resource">
                <span class="mono">{{ m.name }}</span>:
                <template v-if="m.with">with the image of {{ m.with }}</template
                ><template v-else
                  >{{ m.method?.replaceAll('-', ' ') }} from {{ m.store
                  }}<template v-if="m.pointAt">, data of {{ time(m.pointAt) }}</template
                  >, {{ m.asked ? count(m.asked, 'check', 'checks') : 'nothing asked' }}</template
                >
              </li>
            </ul>
          </details>
        </template>
      </div>
      <v-skeleton-loader v-else-if="!problem" type="paragraph, image" color="surface" />
    </template>
  </FormDialog>
</template>

<style scoped>
.plan {
  overflow-wrap: anywhere;
}
.plan p {
  margin: 4px 0;
}
.wrong {
  color: var(--disproven);
}
ul {
  margin: 4px 0 4px 18px;
}
summary {
  cursor: pointer;
}
</style>
