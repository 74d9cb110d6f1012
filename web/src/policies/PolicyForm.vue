<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { PolicyTrial } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'
import { useSession } from '@/people/session'
import { typedDuration, words } from '@/wording/format'

/** A policy: new, changed, or a change of one that comes by a feed, to be tried. */
const props = defineProps<{
  start: { fields: Record<string, string>; key?: string; edited?: string }
}>()
const emit = defineEmits<{ close: []; saved: [] }>()
const session = useSession()

/** PT24H as 24h, PT720H as 30d: as people write it, where that is exact. */
function short(text: string): string {
  return text.replace(/PT(\d+)H/g, (_, hours: string) => typedDuration(Number(hours) * 3_600_000))
}

const fields = ref<Record<string, string>>(
  Object.fromEntries(Object.entries(props.start.fields).map(([k, v]) => [k, short(v)])),
)
const scope = computed({
  get: () => fields.value.scope ?? '',
  set: (text: string) => (fields.value.scope = text || '{}'),
})
const trial = ref<PolicyTrial>()
const trying = useAttempt()
const { attempt, busy, problem: saving } = useAttempt()
const problem = computed(() => saving.value || trying.problem.value)

const FIELDS: [string, string, string][] = [
  ['schedule', 'Schedule', '24h, 0 22 * * 1-5, or FREQ=DAILY;BYHOUR=22'],
  ['zone', 'Time zone', 'UTC'],
  ['start_window', 'May begin late by', '2h'],
  ['complete_within', 'Must be done within', '8h'],
  ['keep_last', 'Keep the last', '14'],
  ['keep_for', 'Keep all for', '30d'],
  ['keep_weekly', 'Keep weekly', '4'],
  ['keep_monthly', 'Keep monthly', '12'],
  ['keep_yearly', 'Keep yearly', '7'],
  ['consistency', 'Consistency', 'application'],
  ['encrypted', 'Encrypted', 'yes'],
  ['read_back', 'Read back after writing', 'yes'],
  ['copy_to', 'Copies (store:deadline;…)', 'holm-disk:24h'],
  ['copy_window', 'Copies go on in', '22:00-06:00'],
  ['exclude', 'Leaves out (pattern;…)', '*.tmp'],
]

const ready = computed(() => !!fields.value.key?.trim() && !!fields.value.name?.trim())
let waiting = 0
watch(
  fields,
  () => {
    window.clearTimeout(waiting)
    if (ready.value) waiting = window.setTimeout(() => void tryOut(), 500)
  },
  { deep: true, immediate: true },
)

async function tryOut() {
  saving.value = ''
  await trying.latest(
    () => answerOf(api.POST('/api/policy-trials', { body: { fields: tried() } })),
    (answer) => (trial.value = answer),
  )
}

/** A change of a feed's policy is tried in its place, although it would be kept beside it. */
function tried(): Record<string, string> {
  const replaces = !props.start.key && props.start.fields.key?.endsWith('-ours')
  return replaces
    ? { ...fields.value, key: (props.start.fields.key ?? '').replace(/-ours$/, '') }
    : fields.value
}

async function save() {
  await attempt(async () => {
    if (props.start.key) {
      await answerOf(
        api.PUT('/api/policies/{key}', {
          params: {
            path: { key: props.start.key },
            header: {
              'If-Match': `"${Date.parse(props.start.edited ?? '')}"`,
            },
          },
          body: { fields: fields.value },
        }),
      )
    } else {
      await answerOf(api.POST('/api/policies', { body: { fields: fields.value } }))
    }
    emit('saved')
  })
}
</script>

<template>
  <FormDialog
    :title="start.key ? `Change ${start.fields.name}` : 'A policy of our own'"
    action="Keep"
    :ready="ready && session.mayWork"
    :busy="busy"
    :problem="problem"
    hint="It needs a key and a name; operators and administrators keep policies"
    @close="emit('close')"
    @submit="save"
  >
    <div class="pair">
      <v-text-field v-model="fields.key" label="Key" class="mono" :disabled="!!start.key" />
      <v-text-field v-model="fields.name" label="Name" />
    </div>
    <SelectorBuilder v-model="scope" label="Scope" />
    <div class="many">
      <v-text-field
        v-for="[code, title, example] in FIELDS"
        :key="code"
        v-model="fields[code]"
        :label="title"
        :placeholder="example"
        density="compact"
        hide-details
      />
    </div>
    <template #below>
      <div v-if="trial" class="small trial" role="status">
        <p>
          <b>{{ trial.inScope }}</b> resources in scope. If it held now,
          {{ trial.differences.turned }} outcomes would turn and
          {{ trial.differences.moves.length }} verdicts would move.
        </p>
        <p v-for="m in trial.differences.moves.slice(0, 8)" :key="m.workload">
          {{ m.name }}: {{ words(m.from ?? 'not there') }} → <b>{{ words(m.to ?? 'gone') }}</b>
        </p>
        <p v-for="t in trial.differences.turns.slice(0, 6)" :key="t.resource + t.criterion">
          {{ t.name }}, {{ t.title }}: {{ words(t.from) }} → {{ words(t.to) }}
        </p>
        <p v-for="p in trial.firstPoints.slice(0, 4)" :key="p">{{ p }}.</p>
      </div>
    </template>
  </FormDialog>
</template>

<style scoped>
.many {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 12px;
}
.trial p {
  margin: 3px 0;
}
</style>
