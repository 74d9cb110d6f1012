<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { NewProgramme, Method } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
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

const ready = computed(() => name.value.trim() && (often.value || rule.value.trim()) && zone.value)

async function add() {
  const programme: NewProgramme = {
    name: name.value,
    scope: scope.value || undefined,
    rule: often.value || rule.value,
    zone: zone.value,
    startWindow: startWindow.value,
    method: method.value || undefined,
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
    <template #below>
      <p class="small quiet">
        It drills the newest usable point of every resource that matches, also of those that appear
        later.
      </p>
    </template>
  </FormDialog>
</template>
