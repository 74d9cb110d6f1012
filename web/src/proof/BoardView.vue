<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Method } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import FirstPage from '@/discovery/FirstPage.vue'
import DrillForm from '@/drills/DrillForm.vue'
import { useAsAt } from '@/frame/useAsAt'
import SplitPane from '@/frame/SplitPane.vue'
import { useCursor } from '@/frame/useCursor'
import { prevented, useKeys } from '@/frame/useKeys'
import { useWhich } from '@/frame/useWhich'
import { useSession } from '@/people/session'
import BoardFilters from './BoardFilters.vue'
import BoardLegend from './BoardLegend.vue'
import BoardRowLine from './BoardRowLine.vue'
import BoardSummary from './BoardSummary.vue'
import CaseFile from './CaseFile.vue'
import MovesLine from './MovesLine.vue'
import { useBoardList, type Sort } from './useBoardList'
import RestsOn from './RestsOn.vue'
import WaterlineChart from './WaterlineChart.vue'

const ROW = 32

const which = useWhich()
const { when, lookingBack } = useAsAt()
const begun = ref(false)
const session = useSession()
const { data, problem, fetching, refresh } = useServerData('/api/board', () => ({
  params: {
    query: {
      ...when.value,
      selector: which.value,
    },
  },
}))
useEvents({ facts: () => void refresh() })

const rows = computed(() => data.value?.workloads ?? [])
const list = useBoardList(rows)
const { shown, selected } = list
// An open case file follows the cursor, as when leafing through a stack.
const { cursor, scroller, moveTo, keys } = useCursor(
  () => shown.value,
  ROW,
  (key) => selected.value && list.set({ w: key }),
)
const filters = ref<{ focus: () => void }>()
const drilling = ref<{ resource: string; point?: string; method?: Method }>()

const columns: { sort: Sort; title: string; class: string }[] = [
  { sort: 'worst', title: 'Verdict', class: 'c-verdict' },
  { sort: 'name', title: 'Workload', class: 'c-name' },
  { sort: 'tier', title: 'Tier', class: 'c-tier' },
  { sort: 'rung', title: 'Proof', class: 'c-proof' },
  { sort: 'loss', title: 'Loss now / RPO', class: 'c-loss' },
  { sort: 'proof', title: 'By proof', class: 'c-byproof' },
]

watch(
  selected,
  (key) => {
    if (key) cursor.value = key
  },
  { immediate: true },
)

function moveToNeedy(step: number) {
  const from = shown.value.findIndex((r) => r.key === cursor.value)
  for (let i = from + step; i >= 0 && i < shown.value.length; i += step) {
    const verdict = shown.value[i]?.verdict
    if (verdict !== 'proven' && verdict !== 'excluded') return void moveTo(i)
  }
}

function open(key: string) {
  cursor.value = key
  list.set({ w: key })
}

function close() {
  list.set({ w: undefined })
}

const caseFile = ref<{ drillThis: () => void }>()

useKeys({
  ...keys,
  '[': () => moveToNeedy(-1),
  ']': () => moveToNeedy(1),
  Enter: (event) => {
    const onButton = (event.target as HTMLElement).closest('button, a')
    if (cursor.value && !onButton) open(cursor.value)
  },
  '/': prevented(() => filters.value?.focus()),
  d: () => caseFile.value?.drillThis(),
  Escape: (event) => {
    if (event.target instanceof HTMLInputElement) event.target.blur()
    else if (!drilling.value && !document.querySelector('[role="dialog"]')) close()
  },
})

function choose(keys: string[]) {
  const same = keys.length === list.only.value.size && keys.every((k) => list.only.value.has(k))
  list.set({ only: same || !keys.length ? undefined : keys.join(',') })
}
</script>

<template>
  <SplitPane list="Workloads" beside="Case file" :open="!!selected">
    <div class="top">
      <div v-if="problem" class="problem" role="alert">
        {{ problem }} <v-btn @click="refresh">Try again</v-btn>
      </div>
      <v-skeleton-loader v-if="!data && !problem" type="heading, image" color="background" />
      <template v-if="data">
        <BoardSummary
          :board="data"
          :chosen="list.verdicts.value"
          @toggle="list.toggle('verdict', $event)"
        />
        <MovesLine v-if="rows.length && !list.which.value"><RestsOn :board="data" /></MovesLine>
        <RestsOn v-else :board="data" class="small" />
        <WaterlineChart
          v-if="rows.length"
          :rows="rows"
          :chosen="list.only.value"
          @choose="choose"
        />
        <BoardLegend v-if="rows.length" />
      </template>
    </div>
    <BoardFilters
      v-if="data && (rows.length || list.which.value)"
      ref="filters"
      :list="list"
      :total="rows.length"
      :fetching="fetching"
    />
    <div
      v-if="rows.length"
      class="grid"
      role="grid"
      aria-label="Workloads, worst first"
      :aria-rowcount="shown.length + 1"
    >
      <div class="line head" role="row" aria-rowindex="1">
        <span
          v-for="c in columns"
          :key="c.sort"
          role="columnheader"
          :class="c.class"
          :aria-sort="list.sort.value === c.sort ? 'ascending' : 'none'"
        >
          <button :class="{ by: list.sort.value === c.sort }" @click="list.set({ sort: c.sort })">
            {{ c.title }}
          </button>
        </span>
        <span
          role="columnheader"
          class="c-copies"
          title="copies · media · off-site · offline or locked · errors"
          >Copies</span
        >
        <span role="columnheader" class="c-why">Why</span>
      </div>
      <v-virtual-scroll
        ref="scroller"
        class="rows"
        :items="shown"
        :item-height="ROW"
        role="presentation"
      >
        <template #default="{ item, index }">
          <BoardRowLine
            :row="item"
            :index="index"
            :at-cursor="item.key === cursor"
            :open="item.key === selected"
            @open="open(item.key)"
          />
        </template>
      </v-virtual-scroll>
      <p v-if="!shown.length" class="empty">
        No workload matches.
        <button class="link" @click="list.clear">Show all {{ rows.length }}</button>
      </p>
    </div>
    <p v-else-if="data && list.which.value" class="empty">
      No workload has a resource that is chosen.
      <button class="link" @click="list.clear">Show all</button>
    </p>
    <div v-else-if="data" class="empty">
      <template v-if="lookingBack">
        <p class="lead">Nothing is known as at this instant.</p>
        <p>No facts had been brought in by then. Choose a later instant, or now.</p>
      </template>
      <FirstPage v-else @followed="begun = true" />
      <p v-if="begun" role="status">
        It is being listed; what comes of it stands here in a moment.
      </p>
    </div>
    <template #beside>
      <CaseFile
        ref="caseFile"
        :key="selected"
        :workload="selected"
        :may-drill="session.mayWork && !lookingBack"
        @close="close"
        @drill="drilling = $event"
      />
    </template>
  </SplitPane>
  <DrillForm v-if="drilling" :start="drilling" @close="drilling = undefined" />
</template>

<style scoped>
.top {
  padding: 14px 20px 6px;
  border-bottom: 1px solid var(--rule);
}
.problem {
  color: var(--disproven);
  margin-bottom: 8px;
}
.grid {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  border-top: 1px solid var(--rule);
}
.rows {
  flex: 1;
}
.head {
  border-bottom: 1px solid var(--rule-strong);
  font-size: 13px;
  color: var(--quiet);
  font-weight: 600;
}
.head button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.head button.by {
  color: var(--ink);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.empty {
  padding: 30px 20px;
}
</style>
<style>
.line {
  display: grid;
  grid-template-columns: 112px minmax(140px, 190px) 36px 78px 136px 92px 96px minmax(110px, 1fr);
  align-items: center;
  height: 32px;
  padding: 0 20px;
  gap: 0 10px;
}
.line > * {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line .c-loss,
.line .c-byproof {
  text-align: right;
}
.line .c-proof {
  overflow: visible;
}
@container (max-width: 800px) {
  .line {
    grid-template-columns: 106px minmax(110px, 150px) 26px 68px 126px 88px 84px minmax(30px, 1fr);
    gap: 0 8px;
  }
}
</style>
