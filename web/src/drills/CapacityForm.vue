<script setup lang="ts">
import { ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { CapacityView, ForecastView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import TrialNights from './TrialNights.vue'

/** What there is to drill with, with what it makes of the coming nights. */
const props = defineProps<{ start: CapacityView; now: number }>()
const emit = defineEmits<{ close: []; saved: [] }>()

const says = ref({ ...props.start.says })
const { attempt, busy, problem } = useAttempt()
const trying = useAttempt()
const trial = ref<ForecastView>()
let waiting = 0
watch(
  says,
  () => {
    window.clearTimeout(waiting)
    waiting = window.setTimeout(() => void tryOut(), 400)
  },
  { deep: true, immediate: true },
)

const draft = () => ({
  ...says.value,
  atOnce: Number(says.value.atOnce),
  atOncePerStore: says.value.atOncePerStore ? Number(says.value.atOncePerStore) : undefined,
  pricePerDrill: Number(says.value.pricePerDrill ?? 0),
  pricePerGbDay: Number(says.value.pricePerGbDay ?? 0),
})

const tryOut = () =>
  trying.latest(
    () => answerOf(api.POST('/api/drill-capacity-trials', { body: draft() })),
    (answer) => (trial.value = answer),
  )

const save = () =>
  attempt(async () => {
    await answerOf(
      api.PUT('/api/drill-capacity', {
        params: { header: { 'If-Match': `"${props.start.recordedAt}"` } },
        body: draft(),
      }),
    )
    emit('saved')
    emit('close')
  })
</script>

<template>
  <FormDialog
    title="What there is to drill with"
    action="Keep it"
    :ready="!trying.problem.value"
    :busy="busy"
    :problem="problem || trying.problem.value"
    @close="emit('close')"
    @submit="save"
  >
    <div class="pair">
      <v-text-field
        v-model="says.hours"
        label="Drills go on in (empty: all day)"
        placeholder="22:00-06:00"
        autofocus
      />
      <v-text-field v-model="says.zone" label="Time zone" />
    </div>
    <div class="pair">
      <v-text-field v-model="says.atOnce" type="number" min="0" max="16" label="Drills at once" />
      <v-text-field
        v-model="says.atOncePerStore"
        type="number"
        min="1"
        label="At once from one store (empty: any)"
      />
    </div>
    <v-text-field
      v-model="says.sandboxBytes"
      label="Room for sandboxes (empty: what the disk has)"
      placeholder="2 TB"
    />
    <div class="pair">
      <v-text-field
        v-model="says.pricePerDrill"
        type="number"
        min="0"
        step="any"
        label="Price of a drill"
      />
      <v-text-field
        v-model="says.pricePerGbDay"
        type="number"
        min="0"
        step="any"
        label="Price of a GB held for a day"
      />
    </div>
    <template #beside>
      <TrialNights :trial="trial" :now="now" />
    </template>
  </FormDialog>
</template>
