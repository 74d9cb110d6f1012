<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { CheckView, ForecastView, ProgrammeDraft, ProgrammeView, RungCode } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { zone } from '@/wording/zone'
import FormDialog from '@/frame/FormDialog.vue'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'
import ProgrammeChecks from './ProgrammeChecks.vue'
import TrialNights from './TrialNights.vue'
import { CADENCES, COPIES, METHODS, POINTS, RUNGS, SHOWINGS, TELLS } from './programmeChoices'

/** A programme, new or changed: what it drills, when and how, beside what it makes of the coming nights. */
const props = defineProps<{ start?: ProgrammeView; now: number; resources?: string[] }>()
const emit = defineEmits<{ close: []; saved: [] }>()

const says = props.start?.says
const name = ref(says?.name ?? '')
/** A new one may be asked for some resources. */
const asked = props.resources?.length
  ? JSON.stringify({ all: [{ field: 'key', in: props.resources }] })
  : ''
const scope = ref(says?.scope && says.scope !== '{}' ? says.scope : asked)
const demanding = ref<RungCode | ''>(says?.demanding ?? '')
const rule = ref(says?.when?.rule ?? '')
const often = ref(CADENCES.some((c) => c.value === rule.value) ? rule.value : 'own')
const when = ref({
  zone: says?.when?.zone ?? zone(),
  startWindow: says?.when?.startWindow ?? '4h',
  hours: says?.when?.hours ?? '',
})
const how = ref({
  showing: says?.how?.showing ?? 'demanded',
  method: says?.how?.method ?? 'full-restore',
  rung: says?.how?.rung ?? 'restored',
  point: says?.how?.point ?? 'newest',
  within: says?.how?.within ?? (says ? '' : '30d'),
  sample: says?.how?.sample,
  copy: says?.how?.copy ?? 'not-last',
  store: says?.how?.store ?? '',
  hold: says?.how?.hold ?? '',
})
const checks = ref<CheckView[]>(says?.checks ?? [])
const limits = ref({
  atOnce: says?.limits?.atOnce,
  nightBytes: says?.limits?.nightBytes ?? '',
  monthCost: says?.limits?.monthCost,
  storeShare: says?.limits?.storeShare,
})
const failure = ref({
  tries: says?.onFailure?.tries ?? 1,
  pause: says?.onFailure?.pause ?? '',
  look: says?.onFailure?.look ?? true,
})
const tell = ref(says?.tell ?? 'failures')

const { data: integrity } = useServerData('/api/integrity')
const stores = computed(() =>
  (integrity.value?.stores ?? []).map((s) => ({ title: s.name, value: s.store })),
)
const { attempt, busy, problem } = useAttempt()
const trying = useAttempt()
const trial = ref<ForecastView>()

const ready = computed(
  () =>
    !!name.value.trim() &&
    (often.value !== 'own' || !!rule.value.trim()) &&
    (rehearses.value || how.value.copy !== 'store' || !!how.value.store),
)

/** A number that is not written is no number. */
const number = (value: unknown) =>
  value === '' || value === undefined || value === null ? undefined : Number(value)

const rehearses = computed(() => how.value.showing === 'rehearsal')

const draft = computed<ProgrammeDraft>(() => ({
  name: name.value || 'new',
  scope: scope.value || undefined,
  demanding: demanding.value || undefined,
  when: { ...when.value, rule: often.value === 'own' ? rule.value : often.value },
  how: {
    ...how.value,
    ...(rehearses.value ? { point: 'newest', copy: 'any' } : {}),
    method: how.value.showing === 'method' ? how.value.method : undefined,
    rung: how.value.showing === 'rung' ? how.value.rung : undefined,
    within: !rehearses.value && how.value.point === 'random' ? how.value.within : undefined,
    sample: !rehearses.value && how.value.point === 'random' ? number(how.value.sample) : undefined,
    store: !rehearses.value && how.value.copy === 'store' ? how.value.store : undefined,
  },
  checks: rehearses.value ? [] : checks.value.filter((c) => c.subject.trim()),
  limits: {
    atOnce: number(limits.value.atOnce),
    nightBytes: limits.value.nightBytes,
    monthCost: number(limits.value.monthCost),
    storeShare: number(limits.value.storeShare),
  },
  onFailure: { ...failure.value, tries: number(failure.value.tries) ?? 1 },
  tell: tell.value,
}))

let waiting = 0
watch(
  draft,
  () => {
    window.clearTimeout(waiting)
    if (often.value === 'own' && !rule.value.trim()) return
    waiting = window.setTimeout(() => void tryOut(), 400)
  },
  { immediate: true },
)

async function tryOut() {
  problem.value = ''
  await trying.latest(
    () =>
      answerOf(
        api.POST('/api/programme-trials', {
          body: { key: props.start?.key, programme: draft.value },
        }),
      ),
    (answer) => (trial.value = answer),
  )
}

const save = () =>
  attempt(async () => {
    if (props.start) {
      await answerOf(
        api.PUT('/api/programmes/{key}', {
          params: {
            path: { key: props.start.key },
            header: { 'If-Match': `"${props.start.recordedAt}"` },
          },
          body: draft.value,
        }),
      )
    } else {
      await answerOf(api.POST('/api/programmes', { body: draft.value }))
    }
    emit('saved')
    emit('close')
  })
</script>

<template>
  <FormDialog
    :title="start ? `Programme ${start.says.name}` : 'New drill programme'"
    :action="start ? 'Change the programme' : 'Begin the programme'"
    :ready="ready && !trying.problem.value"
    :busy="busy"
    :problem="problem || trying.problem.value"
    @close="emit('close')"
    @submit="save"
  >
    <v-text-field v-model="name" label="Name" autofocus maxlength="80" />
    <SelectorBuilder v-model="scope" />
    <v-select v-model="demanding" :items="RUNGS" label="Of which is demanded" />
    <div class="pair">
      <v-select v-model="often" :items="CADENCES" label="How often" />
      <v-text-field v-model="when.hours" label="Only in these hours" placeholder="22:00-06:00" />
    </div>
    <v-text-field
      v-if="often === 'own'"
      v-model="rule"
      label="Recurrence rule (RFC 5545)"
      placeholder="FREQ=WEEKLY;INTERVAL=2;BYDAY=MO;BYHOUR=3;BYMINUTE=0;BYSECOND=0"
      class="mono"
    />
    <div v-if="often" class="pair">
      <v-text-field v-model="when.zone" label="Time zone of the rule" />
      <v-text-field v-model="when.startWindow" label="A start may be late by" />
    </div>
    <div class="pair">
      <v-select v-model="how.showing" :items="SHOWINGS" label="It shows" />
      <v-select
        v-if="how.showing === 'rung'"
        v-model="how.rung"
        :items="RUNGS.slice(1)"
        label="Rung"
      />
      <v-select
        v-if="how.showing === 'method'"
        v-model="how.method"
        :items="METHODS"
        label="Method"
      />
    </div>
    <p v-if="rehearses" class="small quiet">
      Every workload in which something matches: all its members and all that they need, each from
      its newest point and the quickest copy, with the checks that are kept. One workload at a time.
    </p>
    <div v-if="!rehearses" class="pair">
      <v-select v-model="how.point" :items="POINTS" label="Which usable point" />
      <v-select v-model="how.copy" :items="COPIES" label="Which copy" />
    </div>
    <div v-if="!rehearses && (how.point === 'random' || how.copy === 'store')" class="pair">
      <v-text-field
        v-if="how.point === 'random'"
        v-model="how.within"
        label="Of the last (empty: all that are kept)"
      />
      <v-text-field
        v-if="how.point === 'random'"
        v-model="how.sample"
        type="number"
        min="1"
        max="10000"
        label="Sample of all (empty: one of each)"
      />
      <v-select v-if="how.copy === 'store'" v-model="how.store" :items="stores" label="Store" />
    </div>
    <details>
      <summary>Checks, limits, and what happens when one fails</summary>
      <div class="more">
        <ProgrammeChecks v-if="!rehearses" v-model="checks" />
        <div class="pair">
          <v-text-field
            v-model="limits.atOnce"
            type="number"
            min="1"
            label="Of its drills at once (empty: any)"
          />
          <v-text-field
            v-model="limits.nightBytes"
            label="Bytes a night (empty: any)"
            placeholder="500 GB"
          />
        </div>
        <div class="pair">
          <v-text-field
            v-model="limits.monthCost"
            type="number"
            min="0"
            step="any"
            label="Cost a month (empty: any)"
          />
          <v-text-field
            v-model="limits.storeShare"
            type="number"
            min="0"
            max="1"
            step="any"
            label="Share of a store's throughput (0.5; empty: all)"
          />
        </div>
        <div class="pair">
          <v-text-field
            v-model="failure.tries"
            type="number"
            min="1"
            max="10"
            label="Tries of one that was interrupted or refused"
          />
          <v-text-field v-model="failure.pause" label="Wait between tries" placeholder="30m" />
        </div>
        <div class="pair">
          <v-select v-model="tell" :items="TELLS" label="The owner hears of" />
          <v-text-field v-model="how.hold" label="Hold what was restored for" placeholder="8h" />
        </div>
        <v-checkbox
          v-model="failure.look"
          label="Look for the last good point when one fails"
          density="compact"
          hide-details
        />
      </div>
    </details>
    <template #beside>
      <TrialNights :trial="trial" :now="now" />
      <p class="small quiet">
        <template v-if="how.point === 'random' && how.sample"
          >It drills a sample of the points of all that matches, also of what appears later; which,
          nobody knows before, so no proof is counted on.</template
        >
        <template v-else
          >It drills one point of every resource that matches, also of those that appear
          later.</template
        >
        A drill that failed is never tried until it passes.
        <template v-if="how.point === 'random'"
          >Anybody can draw the same again; only drawn points say something of the others.</template
        >
      </p>
    </template>
  </FormDialog>
</template>

<style scoped>
.more {
  display: grid;
  gap: 12px;
  padding-top: 10px;
}
summary {
  cursor: pointer;
}
</style>
