<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type {
  CheckView,
  DrillChoices,
  DrillOrder,
  KeptChecks,
  PlannedDrill,
  Method,
} from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import {
  bytes,
  count,
  duration,
  relative,
  rungName,
  time,
  words,
  methodName,
} from '@/wording/format'
import FormDialog from '@/frame/FormDialog.vue'
import CheckList from './CheckList.vue'
import MethodOptions from './MethodOptions.vue'
import PointFilesSheet from './PointFilesSheet.vue'

/**
 * A new drill on one page: choose the subject, the rest is filled in; what it will do and take stands
 * below before anything starts.
 */
const props = defineProps<{
  start: { resource?: string; point?: string; store?: string; method?: Method; paths?: string[] }
}>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()

const resources = ref<{ title: string; value: string }[]>([])
const resource = ref(props.start.resource ?? '')
const choices = ref<DrillChoices>()
const point = ref(props.start.point ?? '')
const store = ref(props.start.store ?? '')
const method = ref<Method | ''>(props.start.method ?? '')
const reason = ref('')
const holdMinutes = ref(props.start.paths ? 60 : 0)
const checks = ref<CheckView[]>([])
const keepChecks = ref(true)
const kept = ref<KeptChecks>()
const options = ref<NonNullable<DrillOrder['options']>>({
  seed: '',
  engine: '',
  paths: props.start.paths ?? [],
})
const plan = ref<PlannedDrill>()
const loading = useAttempt()
const planning = useAttempt()
const { attempt, busy, problem: starting } = useAttempt()
const problem = computed(() => starting.value || loading.problem.value || planning.problem.value)

const HOLDS = [
  { title: 'remove at once', value: 0 },
  { title: 'hold for 1 hour', value: 60 },
  { title: 'hold for 8 hours', value: 480 },
  { title: 'hold for 2 days', value: 2880 },
]

const points = computed(() =>
  (choices.value?.points ?? []).map((p) => ({
    title: `${time(p.dataTime)} · ${words(p.form)}${p.usable ? '' : ' · not usable'}`,
    subtitle: p.usable ? `${p.point}, ${relative(p.dataTime)}` : `${p.point}: ${p.whyNot}`,
    value: p.point,
  })),
)
const chosenPoint = computed(() => choices.value?.points.find((p) => p.point === point.value))
const stores = computed(() =>
  (chosenPoint.value?.stores ?? []).map((s) => ({ title: s.name, value: s.store })),
)
const methods = computed(() =>
  (choices.value?.methods ?? []).map((m) => ({
    title: `${methodName(m.method)} · shows up to ${rungName(m.reaches)}`,
    value: m.method,
  })),
)
const planned = computed(() => plan.value?.method ?? method.value)
const aspects = computed(
  () => choices.value?.methods.find((m) => m.method === planned.value)?.aspects ?? [],
)

const startsIt = computed(() =>
  ['database', 'directory', 'container-application'].includes(planned.value),
)

const looking = ref(false)

/** Files that were picked in the point are restored alone, and held so that they can be taken out. */
function restorePicked(paths: string[], from: string) {
  looking.value = false
  method.value = 'sample-restore'
  store.value = from
  options.value = { ...options.value, paths }
  if (!holdMinutes.value) holdMinutes.value = 60
}

async function loadResources() {
  const all = await answerOf(api.GET('/api/resources'))
  resources.value = all.map((r) => ({
    title: `${r.name} · ${r.workload ?? 'no workload'}`,
    value: r.key,
  }))
}

watch(
  resource,
  async (key) => {
    choices.value = undefined
    plan.value = undefined
    starting.value = ''
    planning.forget()
    loading.forget()
    if (!key) return
    await loading.latest(async () => {
      const loaded = await answerOf(
        api.GET('/api/drill-choices', { params: { query: { resource: key } } }),
      )
      choices.value = loaded
      checks.value = loaded.checks
      kept.value = await answerOf(
        api.GET('/api/resources/{resource}/checks', { params: { path: { resource: key } } }),
      )
      if (!loaded.points.some((p) => p.point === point.value)) {
        point.value = loaded.points.find((p) => p.usable && p.stores.length)?.point ?? ''
      }
      if (!loaded.methods.some((m) => m.method === method.value)) method.value = ''
    })
  },
  { immediate: true },
)

watch(chosenPoint, (p) => {
  if (p && !p.stores.some((s) => s.store === store.value)) store.value = ''
})

/** A check that is not filled in yet does not stand in the way of the plan. */
function asked(): CheckView[] {
  return checks.value.filter((c) => c.subject.trim())
}

function order(): DrillOrder {
  return {
    resource: resource.value,
    point: point.value || undefined,
    store: store.value || undefined,
    method: method.value || undefined,
    reason: reason.value,
    checks: aspects.value.length ? asked() : undefined,
    keepChecks: aspects.value.length > 0 && keepChecks.value,
    holdMinutes: holdMinutes.value,
    options: { ...options.value, engine: options.value.engine || undefined },
  }
}

watch(
  [choices, point, store, method, checks, holdMinutes, options, aspects],
  async () => {
    if (!choices.value) return
    starting.value = ''
    await planning.latest(
      () => answerOf(api.POST('/api/drill-plans', { body: order() })),
      (answer) => (plan.value = answer),
    )
  },
  { deep: true },
)

const begin = () =>
  attempt(async () => {
    const run = await answerOf(api.POST('/api/drill-runs', { body: order() }))
    emit('close')
    await router.push({ name: 'drills', query: { tab: 'under-way', run: run.id } })
  })

if (!props.start.resource) void loading.attempt(loadResources)
</script>

<template>
  <FormDialog
    :title="choices ? `Drill ${choices.name}` : 'New drill'"
    action="Start the drill"
    :ready="!!plan && !plan.refusal && !!reason.trim()"
    :busy="busy"
    :problem="problem"
    :hint="reason.trim() ? undefined : 'Say why it is drilled'"
    @close="emit('close')"
    @submit="begin"
  >
    <v-autocomplete
      v-if="!start.resource"
      v-model="resource"
      :items="resources"
      :loading="!resources.length"
      label="Resource"
      density="compact"
      variant="outlined"
      hide-details
      autofocus
    />
    <template v-if="choices">
      <v-select
        v-model="point"
        :items="points"
        label="Recovery point"
        item-props
        :no-data-text="`${choices.name} has no recovery point`"
      >
        <template #item="{ props: item, item: entry }">
          <v-list-item
            v-bind="item"
            :title="entry.title"
            :subtitle="entry.subtitle"
            density="compact"
          />
        </template>
      </v-select>
      <p v-if="chosenPoint?.stores.length" class="look small">
        <button type="button" class="link" @click="looking = true">
          What does this point hold?
        </button>
        <span class="quiet"> Look into it on its store, and pick files to restore.</span>
      </p>
      <div class="pair">
        <v-select
          v-model="store"
          :items="[{ title: 'any that holds it', value: '' }, ...stores]"
          label="Read from"
        />
        <v-select
          v-model="method"
          :items="[{ title: 'what shows the most', value: '' }, ...methods]"
          label="Method"
        />
      </div>
      <MethodOptions v-model="options" :method="planned" />
      <CheckList
        v-if="aspects.length"
        v-model="checks"
        v-model:keep="keepChecks"
        :aspects="aspects"
        :tried-on="kept?.triedOn"
      >
        <p v-if="!checks.length && plan && plan.reaches < 4 && startsIt" class="small quiet">
          Without a check a pass shows restored; with one it shows running.
        </p>
      </CheckList>
      <div class="pair">
        <v-text-field
          v-model="reason"
          label="Reason (stands in the evidence)"
          :autofocus="!!start.resource"
          maxlength="300"
        />
        <v-select v-model="holdMinutes" :items="HOLDS" label="Restored data" />
      </div>
    </template>
    <PointFilesSheet
      v-if="looking && chosenPoint"
      :resource="resource"
      :point="point"
      :store="store"
      :may-drill="true"
      @close="looking = false"
      @restore="restorePicked"
    />
    <template #below>
      <div v-if="plan" class="plan">
        <p v-if="plan.refusal" class="wrong" role="alert">
          Not possible like this: {{ plan.refusal }}
        </p>
        <template v-else>
          <p>
            It will read <b class="mono">{{ bytes(plan.readBytes) }}</b> of
            <b class="mono">{{ plan.point }}</b> from {{ plan.storeName }}, take
            <b class="mono">{{ plan.spaceBytes ? bytes(plan.spaceBytes) : 'no space' }}</b><template
              v-if="plan.spaceBytes"
            >
              of {{ bytes(plan.freeBytes) }} free</template
            >, and if it passes show <b>{{ rungName(plan.reaches) }}</b>.
          </p>
          <p v-if="plan.takes" class="small">It takes {{ plan.takes }}.</p>
          <p v-for="note in plan.notes" :key="note" class="small">{{ note }}</p>
          <p v-if="plan.spaceBytes" class="small quiet">
            At most {{ plan.limitFiles.toLocaleString('en') }} files,
            {{ duration(plan.limitMs) }} and {{ plan.limitSandboxes }} sandboxes at once.
          </p>
          <p class="small quiet">
            {{ count(plan.steps.length, 'step', 'steps') }}: {{ plan.steps.join(' → ') }}
          </p>
        </template>
      </div>
    </template>
  </FormDialog>
</template>

<style scoped>
.plan {
  border-top: 1px solid var(--rule);
  margin-top: 14px;
  padding-top: 8px;
  overflow-wrap: anywhere;
}
.plan p {
  margin: 4px 0;
}
.look {
  margin: -6px 0 0;
}
.wrong {
  color: var(--disproven);
}
</style>
