<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { FindingRow } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import SplitPane from '@/frame/SplitPane.vue'
import { useCursor } from '@/frame/useCursor'
import { prevented, useKeys } from '@/frame/useKeys'
import { count } from '@/wording/format'
import FindingActions from './FindingActions.vue'
import FindingFile from './FindingFile.vue'
import FindingFilters from './FindingFilters.vue'
import FindingGroups from './FindingGroups.vue'
import FindingLine from './FindingLine.vue'
import JobStrip from './JobStrip.vue'
import PlanList from './PlanList.vue'
import { useFindings } from './useFindings'

const ROW = 50

const route = useRoute()
const router = useRouter()
const list = useFindings()
const { rows, page, selected } = list
const filters = ref<InstanceType<typeof FindingFilters>>()
const actions = ref<InstanceType<typeof FindingActions>>()
const marked = ref(new Set<string>())
const { cursor, scroller, keys } = useCursor(
  () => rows.value,
  ROW,
  (key) => selected.value && list.set({ finding: key }),
)

const listed = computed(() => rows.value.find((f) => f.key === selected.value))
/** The open one, where the list as it is asked for does not have it. */
const {
  data: apart,
  problem: gone,
  refresh: refreshApart,
} = useServerData('/api/finding', () =>
  selected.value && page.value && !listed.value
    ? { params: { query: { key: selected.value, ...list.when.value } } }
    : undefined,
)
const open = computed(
  () => listed.value ?? (apart.value?.key === selected.value ? apart.value : undefined),
)

/** What to do first, or every finding by itself. */
const part = computed({
  get: () => (route.query.part === 'plan' ? 'plan' : 'list'),
  set: (to) =>
    void router.replace({ query: { ...route.query, part: to === 'plan' ? to : undefined } }),
})

function refresh() {
  void list.refresh()
  void refreshApart()
}
useEvents({ facts: refresh })

/** What an action is about: the marked ones, else the one that is open or at the cursor. */
const subjects = computed<FindingRow[]>(() => {
  const chosen = rows.value.filter((f) => marked.value.has(f.key))
  if (chosen.length) return chosen
  const one = open.value ?? rows.value.find((f) => f.key === cursor.value)
  return one ? [one] : []
})
const markedCount = computed(() => rows.value.filter((f) => marked.value.has(f.key)).length)

function toggle(key: string) {
  const next = new Set(marked.value)
  if (!next.delete(key)) next.add(key)
  marked.value = next
}

function unmark() {
  marked.value = new Set()
}

function markAll() {
  if (markedCount.value === rows.value.length) unmark()
  else marked.value = new Set(rows.value.map((f) => f.key))
}

function show(key: string) {
  cursor.value = key
  list.set({ finding: key })
}

function close() {
  list.set({ finding: undefined })
}

useKeys({
  ...keys,
  x: () => cursor.value && toggle(cursor.value),
  Enter: (event) => {
    if (cursor.value && !(event.target as HTMLElement).closest('button, a, input'))
      show(cursor.value)
  },
  '/': prevented(() => filters.value?.focus()),
  c: () => actions.value?.cover(),
  e: () => actions.value?.except(),
  Escape: (event) => {
    if (event.target instanceof HTMLInputElement) event.target.blur()
    else if (!actions.value?.acting && !document.querySelector('[role="dialog"]')) close()
  },
})

function done() {
  unmark()
  refresh()
}

function showAll() {
  list.set({
    find: undefined,
    state: undefined,
    tier: undefined,
    in: undefined,
    which: undefined,
  })
}

function onScroll(event: Event) {
  const box = event.target as HTMLElement
  if (box.scrollTop + box.clientHeight > box.scrollHeight - 40 * ROW) list.more()
}
</script>

<template>
  <SplitPane list="Findings" beside="Finding" :open="!!selected">
    <div class="top">
      <p v-if="list.problem.value" class="wrong" role="alert">
        {{ list.problem.value }} <v-btn @click="list.refresh">Try again</v-btn>
      </p>
      <v-skeleton-loader v-if="!page && !list.problem.value" type="heading" color="background" />
      <template v-if="page">
        <p class="lead">
          <template v-if="page.open">
            {{ count(page.causes, 'cause is', 'causes are') }} open, with
            {{ count(page.open, 'finding', 'findings') }} behind
            {{ page.causes === 1 ? 'it' : 'them'
            }}<template v-if="page.unprotected"
              >,
              <b class="wrong"
                >{{ count(page.unprotected, 'resource has', 'resources have') }} no cover at all</b
              ></template
            ><template v-if="page.excepted"
              >; {{ page.excepted }} more
              {{ page.excepted === 1 ? 'is' : 'are' }} accepted</template
            >.
          </template>
          <template v-else>Nothing is open.</template>
        </p>
        <JobStrip :when="list.when.value" />
        <v-tabs v-model="part" aria-label="Findings">
          <v-tab value="list">List</v-tab>
          <v-tab value="plan">Plan</v-tab>
        </v-tabs>
      </template>
    </div>
    <PlanList v-if="part === 'plan'" @show="show" />
    <FindingFilters v-if="part === 'list'" ref="filters" :list="list" />
    <FindingActions
      v-if="part === 'list'"
      ref="actions"
      :findings="subjects"
      :marked="markedCount"
      @unmark="unmark"
      @done="done"
    />
    <div v-show="part === 'list'" class="body">
      <FindingGroups
        v-if="list.group.value && page"
        :groups="page.groups"
        :inside="list.inside.value"
        @choose="list.set({ in: $event })"
      />
      <div class="grid" role="grid" aria-label="Findings, what matters most first">
        <div class="finding-line head" role="row">
          <span role="columnheader"
            ><input
              type="checkbox"
              :checked="markedCount > 0 && markedCount === rows.length"
              aria-label="Mark all that are shown"
              @change="markAll"
          /></span>
          <span role="columnheader">Resource</span>
          <span role="columnheader">Tier</span>
          <span role="columnheader">What is not met</span>
          <span role="columnheader" class="n">Open for</span>
        </div>
        <v-virtual-scroll
          v-show="rows.length"
          ref="scroller"
          class="rows"
          :items="rows"
          :item-height="ROW"
          role="presentation"
          @scroll="onScroll"
        >
          <template #default="{ item, index }">
            <FindingLine
              :finding="item"
              :index="index"
              :marked="marked.has(item.key)"
              :at-cursor="item.key === cursor"
              :open="item.key === selected"
              :as-at="page?.asAt ?? ''"
              @mark="toggle(item.key)"
              @open="show(item.key)"
            />
          </template>
        </v-virtual-scroll>
        <p v-if="page && !rows.length" class="empty">
          No finding matches.
          <button class="link" @click="showAll">Show all that are open</button>
        </p>
      </div>
    </div>
    <template #beside>
      <FindingFile v-if="open" :key="open.key" :finding="open" @close="close" />
      <p v-else-if="gone" class="gone">
        {{ gone }} <button class="link" @click="close">Close</button>
      </p>
    </template>
  </SplitPane>
</template>

<style scoped>
.top {
  padding: 12px 20px 8px;
  border-bottom: 1px solid var(--rule);
}
.lead {
  margin: 0;
}
.body {
  flex: 1;
  min-height: 0;
  display: flex;
  border-top: 1px solid var(--rule);
}
.grid {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.rows {
  flex: 1;
}
.head {
  height: 30px;
  border-bottom: 1px solid var(--rule-strong);
  font-size: 13px;
  color: var(--quiet);
  font-weight: 600;
}
.wrong {
  color: var(--disproven);
}
.empty,
.gone {
  padding: 24px 20px;
}
</style>
<style>
.finding-line {
  display: grid;
  grid-template-columns: 20px minmax(120px, 190px) 34px minmax(160px, 1fr) 84px;
  align-items: center;
  padding: 0 20px;
  gap: 0 10px;
}
.finding-line .n {
  text-align: right;
}
</style>
