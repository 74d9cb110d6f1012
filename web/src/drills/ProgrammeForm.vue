<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { CopyWay, Method, NewProgramme, PointWay } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import FormDialog from '@/frame/FormDialog.vue'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'

/** A new programme: what it drills, how often, how late a start may be. */
const emit = defineEmits<{ close: []; added: [] }>()

const name = ref('')
const scope = ref('')
const often = ref('FREQ=DAILY;BYHOUR=2;BYMINUTE=0;BYSECOND=0')
const rule = ref('')
const zone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC')
const startWindow = ref('4h')
const method = ref<Method | ''>('')
const point = ref<PointWay>('newest')
const within = ref('30d')
const copy = ref<CopyWay>('not-last')
const store = ref('')
const { data: integrity } = useServerData('/api/integrity')
const stores = computed(() =>
  (integrity.value?.stores ?? []).map((s) => ({ title: s.name, value: s.store })),
)
const { attempt, busy, problem } = useAttempt()

const CADENCES = [
  { title: 'every night at 02:00', value: 'FREQ=DAILY;BYHOUR=2;BYMINUTE=0;BYSECOND=0' },
  {
    title: 'every Saturday at 02:00',
    value: 'FREQ=WEEKLY;BYDAY=SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0',
  },
  {
    title: 'first Saturday of the month at 02:00',
    value: 'FREQ=MONTHLY;BYDAY=1SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0',
  },
  { title: 'by a rule of my own …', value: '' },
]
const METHODS = [
  { title: 'what shows the most of each kind', value: '' },
  { title: 'read-through', value: 'read-through' },
  { title: 'sample restore', value: 'sample-restore' },
  { title: 'full restore', value: 'full-restore' },
]

const POINTS: { title: string; value: PointWay }[] = [
  { title: 'the newest', value: 'newest' },
  { title: 'one drawn at random', value: 'random' },
  { title: 'the oldest kept', value: 'oldest' },
  { title: 'each in turn', value: 'in-turn' },
  { title: 'the riskiest: of odd size, else of the longest chain', value: 'riskiest' },
]
const COPIES: { title: string; value: CopyWay }[] = [
  { title: 'not the one drilled last', value: 'not-last' },
  { title: 'any', value: 'any' },
  { title: 'an off-site one', value: 'off-site' },
  { title: 'the one on a store …', value: 'store' },
]

const ready = computed(
  () =>
    name.value.trim() &&
    (often.value || rule.value.trim()) &&
    zone.value &&
    (copy.value !== 'store' || store.value),
)

async function add() {
  const programme: NewProgramme = {
    name: name.value,
    scope: scope.value || undefined,
    rule: often.value || rule.value,
    zone: zone.value,
    startWindow: startWindow.value,
    method: method.value || undefined,
    point: point.value,
    within: point.value === 'random' ? within.value : undefined,
    copy: copy.value,
    store: copy.value === 'store' ? store.value : undefined,
  }
  await attempt(async () => {
    await answerOf(api.POST('/api/programmes', { body: programme }))
    emit('added')
    emit('close')
  })
}
</script>

<template>
  <FormDialog
    title="New drill programme"
    action="Begin the programme"
    :ready="!!ready"
    :busy="busy"
    :problem="problem"
    @close="emit('close')"
    @submit="add"
  >
    <v-text-field v-model="name" label="Name" autofocus maxlength="80" />
    <SelectorBuilder v-model="scope" />
    <v-select v-model="often" :items="CADENCES" label="How often" />
    <v-text-field
      v-if="!often"
      v-model="rule"
      label="Recurrence rule (RFC 5545)"
      placeholder="FREQ=WEEKLY;INTERVAL=2;BYDAY=MO;BYHOUR=3;BYMINUTE=0;BYSECOND=0"
      class="mono"
    />
    <div class="pair">
      <v-text-field v-model="zone" label="Time zone" />
      <v-text-field v-model="startWindow" label="A start may be late by" />
    </div>
    <v-select v-model="method" :items="METHODS" label="Method" />
    <div class="pair">
      <v-select v-model="point" :items="POINTS" label="Which usable point" />
      <v-select v-model="copy" :items="COPIES" label="Which copy" />
    </div>
    <div v-if="point === 'random' || copy === 'store'" class="pair">
      <v-text-field
        v-if="point === 'random'"
        v-model="within"
        label="Of the last (empty: all that are kept)"
      />
      <v-select v-if="copy === 'store'" v-model="store" :items="stores" label="Store" />
    </div>
    <template #below>
      <p class="small quiet">
        It drills one point of every resource that matches, also of those that appear later.
        <template v-if="point === 'random'"
          >Anybody can draw the same again; only drawn points say something of the others.</template
        >
      </p>
    </template>
  </FormDialog>
</template>
