<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { FindingRow } from '@/api/client'
import { useEvents } from '@/api/useEvents'
import { useKeys } from '@/frame/useKeys'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'
import { usePane } from '@/proof/usePane'
import { count } from '@/wording/format'
import CoverForm from './CoverForm.vue'
import ExceptForm from './ExceptForm.vue'
import FindingFile from './FindingFile.vue'
import FindingLine from './FindingLine.vue'
import HandOverForm from './HandOverForm.vue'
import JobStrip from './JobStrip.vue'
import LookForm from './LookForm.vue'
import { GROUPINGS, useFindings } from './useFindings'

const list = useFindings()
const { rows, page, selected } = list
const session = useSession()
const { lookingBack } = useAsAt()
const pane = usePane()
useEvents({ facts: () => void list.refresh() })

const marked = ref(new Set<string>())
const cursor = ref('')
const acting = ref<'cover' | 'except' | 'hand' | 'look'>()
const said = ref('')
const search = ref<{ focus: () => void }>()
const scroller = ref<{ $el: HTMLElement }>()
const typed = ref(list.find.value)
let waiting = 0
watch(typed, (text) => {
  window.clearTimeout(waiting)
  waiting = window.setTimeout(() => list.set({ find: text || undefined }), 250)
})

const STATES = [
  { value: 'open', title: 'open' },
  { value: 'new', title: 'not looked at' },
  { value: 'looked', title: 'looked at' },
  { value: 'excepted', title: 'accepted' },
]
const TIERS = ['', '1', '2', '3', '4']

/** What an action is about: the marked ones, else the one that is open. */
const subjects = computed<FindingRow[]>(() => {
  const chosen = rows.value.filter((f) => marked.value.has(f.key))
  if (chosen.length) return chosen
  const one = rows.value.find((f) => f.key === (selected.value || cursor.value))
  return one ? [one] : []
})
const resources = computed(() => [
  ...new Set(subjects.value.filter((f) => f.type === 'resource').map((f) => f.subject)),
])
const mayCover = computed(() => session.mayWork && !lookingBack.value && resources.value.length > 0)
const mayAct = computed(() => !lookingBack.value && subjects.value.length > 0)
const open = computed(() => rows.value.find((f) => f.key === selected.value))

function toggle(key: string) {
  const next = new Set(marked.value)
  if (!next.delete(key)) next.add(key)
  marked.value = next
}

function markAll() {
  marked.value =
    marked.value.size === rows.value.length ? new Set() : new Set(rows.value.map((f) => f.key))
}

const ROW = 50
function keepInSight(index: number) {
  const box = scroller.value?.$el
  if (!box) return
  if (index * ROW < box.scrollTop) box.scrollTop = index * ROW
  else if ((index + 1) * ROW > box.scrollTop + box.clientHeight)
    box.scrollTop = (index + 1) * ROW - box.clientHeight
}

function move(by: number) {
  const at = rows.value.findIndex((f) => f.key === cursor.value)
  const to = Math.min(rows.value.length - 1, Math.max(0, at + by))
  const next = rows.value[to]
  if (!next) return
  cursor.value = next.key
  if (selected.value) list.set({ finding: next.key })
  keepInSight(to)
  void nextTick()
}

function show(key: string) {
  cursor.value = key
  list.set({ finding: key })
}

function prevented(work: () => void) {
  return (event: KeyboardEvent) => {
    event.preventDefault()
    work()
  }
}

useKeys({
  j: prevented(() => move(1)),
  ArrowDown: prevented(() => move(1)),
  k: prevented(() => move(-1)),
  ArrowUp: prevented(() => move(-1)),
  x: () => cursor.value && toggle(cursor.value),
  Enter: (event) => {
    if (cursor.value && !(event.target as HTMLElement).closest('button, a, input'))
      show(cursor.value)
  },
  '/': prevented(() => search.value?.focus()),
  'Ctrl+k': prevented(() => search.value?.focus()),
  c: () => mayCover.value && (acting.value = 'cover'),
  e: () => mayAct.value && resources.value.length && (acting.value = 'except'),
  Escape: (event) => {
    if (event.target instanceof HTMLInputElement) event.target.blur()
    else if (!acting.value && !document.querySelector('[role="dialog"]'))
      list.set({ finding: undefined })
  },
})

function done(sentence: string) {
  acting.value = undefined
  marked.value = new Set()
  said.value = sentence
  void list.refresh()
}

function showAll() {
  typed.value = ''
  list.set({ find: undefined, state: undefined, tier: undefined, in: undefined })
}

function onScroll(event: Event) {
  const box = event.target as HTMLElement
  if (box.scrollTop + box.clientHeight > box.scrollHeight - 40 * ROW) list.more()
}
</script>

<template>
  <div class="findings">
    <section class="left" aria-label="Findings">
      <div class="top">
        <p v-if="list.problem.value" class="wrong" role="alert">
          {{ list.problem.value }} <v-btn @click="list.refresh">Try again</v-btn>
        </p>
        <v-skeleton-loader v-if="!page && !list.problem.value" type="heading" color="background" />
        <template v-if="page">
          <p class="lead">
            <template v-if="page.open">
              {{ count(page.open, 'finding is', 'findings are') }} open<template
                v-if="page.unprotected"
                >,
                <b class="wrong"
                  >{{ count(page.unprotected, 'resource has', 'resources have') }} no cover at
                  all</b
                ></template
              ><template v-if="page.excepted"
                >; {{ page.excepted }} more
                {{ page.excepted === 1 ? 'is' : 'are' }} accepted</template
              >.
            </template>
            <template v-else>Nothing is open.</template>
          </p>
          <JobStrip :as-at="list.asAt.value" />
        </template>
      </div>
      <div class="bar">
        <v-text-field
          ref="search"
          v-model="typed"
          density="compact"
          hide-details
          label="Find"
          aria-label="Find a finding"
          class="find"
        />
        <div class="choices" role="radiogroup" aria-label="State">
          <button
            v-for="s in STATES"
            :key="s.value"
            role="radio"
            :aria-checked="list.state.value === s.value"
            @click="list.set({ state: s.value === 'open' ? undefined : s.value })"
          >
            {{ s.title }}
          </button>
        </div>
        <label class="small"
          >tier
          <select
            :value="list.tier.value"
            @change="list.set({ tier: ($event.target as HTMLSelectElement).value || undefined })"
          >
            <option v-for="t in TIERS" :key="t" :value="t">{{ t || 'any' }}</option>
          </select></label
        >
        <label class="small"
          >shown
          <select
            :value="list.group.value"
            @change="
              list.set({
                group: ($event.target as HTMLSelectElement).value || undefined,
                in: undefined,
              })
            "
          >
            <option v-for="g in GROUPINGS" :key="g.value" :value="g.value">{{ g.title }}</option>
          </select></label
        >
        <span class="small quiet">{{ rows.length }} of {{ page?.total ?? 0 }}</span>
      </div>
      <div class="acts" :class="{ on: marked.size }">
        <span class="small">
          <template v-if="marked.size">{{ marked.size }} marked</template>
          <template v-else-if="open">{{ open.title }}</template>
          <template v-else>Mark with x or the box, or open one, to act on it.</template>
        </span>
        <v-btn :disabled="!mayCover" title="c" @click="acting = 'cover'">Put under a policy</v-btn>
        <v-btn :disabled="!mayAct || !resources.length" title="e" @click="acting = 'except'"
          >Except</v-btn
        >
        <v-btn :disabled="!mayAct" @click="acting = 'hand'">Hand over</v-btn>
        <v-btn :disabled="!mayAct" @click="acting = 'look'">Looked at</v-btn>
        <button v-if="marked.size" class="link small" @click="marked = new Set()">unmark</button>
        <span v-if="said" class="small" role="status">{{ said }}</span>
      </div>
      <div class="body">
        <nav v-if="list.group.value && page" class="groups" aria-label="Groups">
          <button
            :aria-current="list.inside.value === undefined"
            @click="list.set({ in: undefined })"
          >
            <span>all</span><span class="mono">{{ page.groups.length }}</span>
          </button>
          <button
            v-for="g in page.groups"
            :key="g.value"
            :aria-current="list.inside.value === g.value"
            @click="list.set({ in: g.value })"
          >
            <span :class="{ wrong: g.unprotected }">{{ g.title }}</span><span class="mono">{{
              g.count
            }}</span>
          </button>
        </nav>
        <div class="grid" role="grid" aria-label="Findings, what matters most first">
          <div class="finding-line head" role="row">
            <span role="columnheader"
              ><input
                type="checkbox"
                :checked="marked.size > 0 && marked.size === rows.length"
                aria-label="Mark all that are shown"
                @change="markAll"
            /></span>
            <span role="columnheader">Resource</span>
            <span role="columnheader">Tier</span>
            <span role="columnheader">What is not met</span>
            <span role="columnheader" class="n">Open for</span>
          </div>
          <v-virtual-scroll
            ref="scroller"
            class="rows"
            :items="rows"
            :item-height="ROW"
            role="presentation"
            @scroll="onScroll"
          >
            <template #default="{ item }">
              <FindingLine
                :finding="item"
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
    </section>
    <template v-if="selected">
      <div
        class="divider"
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the finding"
        tabindex="0"
        :aria-valuenow="pane.width.value"
        @pointerdown="pane.drag"
        @keydown.left.stop.prevent="pane.grow(24)"
        @keydown.right.stop.prevent="pane.grow(-24)"
      />
      <aside class="right" :style="{ width: `${pane.width.value}px` }" aria-label="Finding">
        <FindingFile
          v-if="open"
          :key="open.key"
          :finding="open"
          @close="list.set({ finding: undefined })"
        />
        <p v-else class="gone">
          This finding is not in the list any more: it is closed, or left out by what is asked for.
          <button class="link" @click="list.set({ finding: undefined })">Close</button>
        </p>
      </aside>
    </template>
    <CoverForm
      v-if="acting === 'cover'"
      :resources="resources"
      @close="acting = undefined"
      @done="done"
    />
    <ExceptForm
      v-if="acting === 'except'"
      :findings="subjects"
      @close="acting = undefined"
      @done="done"
    />
    <HandOverForm
      v-if="acting === 'hand'"
      :findings="subjects"
      @close="acting = undefined"
      @done="done"
    />
    <LookForm
      v-if="acting === 'look'"
      :findings="subjects"
      @close="acting = undefined"
      @done="done"
    />
  </div>
</template>

<style scoped>
.findings {
  display: flex;
  height: 100%;
}
.left {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  container-type: inline-size;
}
.top {
  padding: 12px 20px 8px;
  border-bottom: 1px solid var(--rule);
}
.lead {
  margin: 0;
}
.bar,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 6px 20px;
}
.acts {
  border-top: 1px solid var(--rule);
  gap: 6px 8px;
}
.acts.on {
  background: var(--selected);
}
.acts > .small:first-child {
  margin-right: 8px;
}
.find {
  max-width: 230px;
}
select {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule-strong);
  border-radius: 2px;
  padding: 3px 6px;
}
.choices {
  display: flex;
  gap: 12px;
}
.choices button {
  font: 13px var(--sans);
  color: var(--quiet);
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  padding: 3px 0;
  cursor: pointer;
}
.choices button[aria-checked='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--accent);
}
.body {
  flex: 1;
  min-height: 0;
  display: flex;
  border-top: 1px solid var(--rule);
}
.groups {
  flex: none;
  width: 232px;
  overflow: auto;
  border-right: 1px solid var(--rule);
  padding: 4px 0;
}
.groups button {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  text-align: left;
  font: 13px var(--sans);
  color: inherit;
  background: none;
  border: 0;
  padding: 4px 12px 4px 20px;
  cursor: pointer;
}
.groups button[aria-current='true'] {
  background: var(--selected);
  font-weight: 600;
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
.divider {
  width: 5px;
  margin: 0 -2px;
  cursor: col-resize;
  z-index: 1;
}
.right {
  flex: none;
  border-left: 1px solid var(--rule-strong);
  background: var(--sheet);
  overflow: auto;
}
@media (max-width: 900px) {
  .divider,
  .groups {
    display: none;
  }
  .right {
    position: fixed;
    inset: 46px 0 0;
    width: auto !important;
    z-index: 5;
  }
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
