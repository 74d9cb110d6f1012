<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import {
  call,
  Problem,
  type DrillChoices,
  type DrillOrder,
  type PlannedDrill,
  type Query,
  type ResourceLine,
  type RunView,
} from '@/api/client'
import { bytes, count, relative, rungName, time, words, methodName } from '@/wording/format'
import FormDialog from '@/frame/FormDialog.vue'
import QueryList from './QueryList.vue'

/**
 * A new drill on one page: choose the subject, the rest is filled in; what it will do and take stands
 * below before anything starts.
 */
const props = defineProps<{ start: { resource?: string; point?: string; method?: string } }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()

const resources = ref<{ title: string; value: string }[]>([])
const resource = ref(props.start.resource ?? '')
const choices = ref<DrillChoices>()
const point = ref(props.start.point ?? '')
const store = ref('')
const method = ref(props.start.method ?? '')
const reason = ref('')
const holdMinutes = ref(0)
const queries = ref<Query[]>([])
const keepQueries = ref(true)
const plan = ref<PlannedDrill>()
const problem = ref('')
const busy = ref(false)

const HOLDS = [
  { title: 'remove at once', value: 0 },
  { title: 'hold for 1 hour', value: 60 },
  { title: 'hold for 8 hours', value: 480 },
  { title: 'hold for 2 days', value: 2880 },
]

function said(e: unknown): string {
  return e instanceof Problem ? e.message : String(e)
}

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
const asksQueries = computed(() => (plan.value?.method ?? method.value) === 'database')

async function loadResources() {
  const all = await call<ResourceLine[]>('GET', 'resources')
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
    problem.value = ''
    if (!key) return
    try {
      const loaded = await call<DrillChoices>(
        'GET',
        `drill-choices?resource=${encodeURIComponent(key)}`,
      )
      choices.value = loaded
      queries.value = loaded.queries
      if (!loaded.points.some((p) => p.point === point.value)) {
        point.value = loaded.points.find((p) => p.usable && p.stores.length)?.point ?? ''
      }
      if (!loaded.methods.some((m) => m.method === method.value)) method.value = ''
    } catch (e) {
      problem.value = said(e)
    }
  },
  { immediate: true },
)

watch(chosenPoint, (p) => {
  if (p && !p.stores.some((s) => s.store === store.value)) store.value = ''
})

function order(): DrillOrder {
  return {
    resource: resource.value,
    point: point.value || undefined,
    store: store.value || undefined,
    method: method.value || undefined,
    reason: reason.value,
    queries: asksQueries.value ? queries.value.filter((q) => q.query.trim()) : undefined,
    keepQueries: asksQueries.value && keepQueries.value,
    holdMinutes: holdMinutes.value,
  }
}

let newest = 0
watch(
  [choices, point, store, method, queries, holdMinutes],
  async () => {
    if (!choices.value) return
    const mine = ++newest
    try {
      const answer = await call<PlannedDrill>('POST', 'drill-plans', order())
      if (mine !== newest) return
      plan.value = answer
      problem.value = ''
    } catch (e) {
      if (mine !== newest) return
      plan.value = undefined
      problem.value = said(e)
    }
  },
  { deep: true },
)

async function begin() {
  busy.value = true
  problem.value = ''
  try {
    const run = await call<RunView>('POST', 'drill-runs', order())
    emit('close')
    await router.push({ name: 'drills', query: { tab: 'under-way', run: run.id } })
  } catch (e) {
    problem.value = said(e)
  } finally {
    busy.value = false
  }
}

if (!props.start.resource) loadResources().catch((e: unknown) => (problem.value = said(e)))
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
      <QueryList v-if="asksQueries" v-model="queries" v-model:keep="keepQueries" />
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
.wrong {
  color: var(--disproven);
}
</style>
