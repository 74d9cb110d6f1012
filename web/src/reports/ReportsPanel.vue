<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'
import { useRoute } from 'vue-router'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { IssuedReport, ReportKindView, ReportView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import { bytes, relative, time, utc } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'
import ReportForm from './ReportForm.vue'
import { reached, rhythm } from './reportChoices'

/** Read one now, have one issued on a schedule, and what was issued. */
const AGAIN_MS = 2000
const SELDOM = 10
const route = useRoute()
const { data: kinds } = useServerData('/api/report-kinds')
const { data: reports, problem, refresh } = useServerData('/api/reports')
const { data: issued, refresh: refreshIssued } = useServerData('/api/issued-reports')
const session = useSession()
const administrator = computed(() => session.person?.role === 'administrator')
const { whyNotWork } = useMay()
const { when, from } = useAsAt()

const kind = ref<ReportKindView['kind']>('jobs')
const scope = ref('')
const days = ref('7')
const tables = computed(() => (kinds.value ?? []).filter((k) => k.tables))
const chosen = computed(() => tables.value.find((k) => k.kind === kind.value))

/** The address of what is to be read, or downloaded, at once. */
function address(form: string): string {
  const query = new URLSearchParams({ kind: kind.value })
  if (scope.value) query.set('selector', scope.value)
  const n = Number(days.value) || 1
  const end = when.value.asAt ? Date.parse(when.value.asAt) : Date.now()
  if (chosen.value?.period === 'back')
    query.set('from', from.value || new Date(end - n * 86_400_000).toISOString())
  if (chosen.value?.period === 'ahead') query.set('ahead', `${n}d`)
  if (when.value.asAt) query.set('asAt', when.value.asAt)
  if (when.value.knownAt) query.set('knownAt', when.value.knownAt)
  return `/api/report/${form}?${query}`
}

const editing = ref<ReportView | 'new'>()
const { attempt, problem: failed } = useAttempt()

const remove = (report: ReportView) =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/reports/{id}', { params: { path: { id: report.id } } }))
    await refresh()
  })

const issue = (report: ReportView) =>
  attempt(async () => {
    await answerOf(api.POST('/api/reports/{id}/issue', { params: { path: { id: report.id } } }))
    await refreshIssued()
  })

/** Something is being made, or on its way for the first time. */
const busy = computed(
  () =>
    !!issued.value?.making.length ||
    !!issued.value?.issued.some((r) => r.deliveries.some((d) => d.state === 'waiting' && !d.tries)),
)
// What is made meanwhile shows by itself, and soon where somebody waits for it.
let passed = 0
const timer = window.setInterval(() => {
  passed = (passed + 1) % SELDOM
  if (busy.value || passed === 0) void refreshIssued()
}, AGAIN_MS)
onScopeDispose(() => window.clearInterval(timer))

const wordsOf = (k: string) => kinds.value?.find((v) => v.kind === k)?.words ?? k
const file = (r: IssuedReport, name: string) =>
  `/api/issued-reports/${r.id}/files/${encodeURIComponent(name)}`
/** `HTML`, `CSV`, of several the part too. */
function label(name: string, r: IssuedReport): string {
  const dot = name.lastIndexOf('.')
  const ending = name.slice(dot + 1)
  const part = name.slice(0, dot).match(/-\d{8}-\d{4}-(.+)$/)?.[1]
  const said = ending === 'html' ? 'Read' : ending.toUpperCase()
  return part && r.files.filter((f) => f.name.endsWith(ending)).length > 1
    ? `${said} ${part}`
    : said
}

/** What is read first, first. */
const inOrder = (r: IssuedReport) =>
  [...r.files].sort((a, b) => Number(b.name.endsWith('.html')) - Number(a.name.endsWith('.html')))

function stateOf(d: IssuedReport['deliveries'][number]): string {
  if (d.state === 'sent') return `taken ${d.endedAt ? relative(d.endedAt) : ''}`
  if (d.state === 'failed') return `given up: ${d.problem}`
  return d.problem
    ? `not taken yet: ${d.problem}; tried again ${d.nextAt ? relative(d.nextAt) : ''}`
    : 'on its way'
}
const opened = computed(() => Number(route.query.issued) || 0)
</script>

<template>
  <p class="lead">What is handed out opens here first, with the same words.</p>
  <section class="block" aria-label="Read a report now">
    <div class="now">
      <v-select v-model="kind" :items="tables" item-value="kind" item-title="words" label="What" />
      <SelectorBuilder v-model="scope" />
      <v-text-field
        v-if="chosen && chosen.period !== 'none' && !(chosen.period === 'back' && from)"
        v-model="days"
        type="number"
        min="1"
        :label="chosen.period === 'back' ? 'Days back' : 'Days ahead'"
      />
      <p class="links">
        <a :href="address('page')" target="_blank" rel="noopener">Read it</a>
        <a v-if="kind !== 'digest'" :href="address(`csv/${kind}`)" download>CSV</a>
        <a :href="address('json')" :download="`${kind}.json`">JSON</a>
      </p>
    </div>
  </section>

  <section class="block">
    <h2>On a schedule</h2>
    <p v-if="problem || failed" class="wrong" role="alert">{{ problem || failed }}</p>
    <p v-if="reports && !reports.length" class="quiet">
      Nothing is issued by itself yet. A digest each morning, or the head of the ledger for a
      witness each week, would be a beginning.
    </p>
    <table v-if="reports?.length" class="plain">
      <thead>
        <tr>
          <th>Report</th>
          <th>Scope</th>
          <th>When</th>
          <th>To</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in reports" :key="r.id">
          <td>
            <b>{{ r.report.title }}</b><br /><span class="small quiet">{{
              wordsOf(r.report.kind)
            }}</span>
          </td>
          <td>{{ r.scope }}</td>
          <td>
            {{ rhythm(r.report.rule) }} ({{ r.report.zone }})<br />
            <span class="small quiet" :title="r.next ? utc(r.next) : undefined">{{
              r.next ? `next ${relative(r.next)}` : r.report.active ? 'never again' : 'off'
            }}</span>
          </td>
          <td>
            <span v-for="d in r.report.deliveries" :key="d.how + d.recipient" class="line">{{
              reached(d.how, d.recipient)
            }}</span>
            <span v-if="!r.report.deliveries?.length" class="quiet">nobody</span>
          </td>
          <td class="nowrap">
            <span class="links">
              <button class="link" :disabled="!!whyNotWork" :title="whyNotWork" @click="issue(r)">
                Issue now
              </button>
              <template v-if="administrator">
                <button class="link" @click="editing = r">Change</button>
                <button class="link" @click="remove(r)">Remove</button>
              </template>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <p>
      <v-btn v-if="administrator" @click="editing = 'new'">Have a report issued</v-btn>
      <span v-else class="small quiet">Administrators decide what leaves the house by itself.</span>
    </p>
  </section>

  <section class="block">
    <h2>Issued</h2>
    <p v-for="title in issued?.making" :key="title" class="small" role="status">
      Making {{ title }} …
    </p>
    <p v-if="issued && !issued.issued.length" class="quiet">Nothing has been issued yet.</p>
    <table v-if="issued?.issued.length" class="plain">
      <thead>
        <tr>
          <th>Report</th>
          <th>As at</th>
          <th>Files</th>
          <th>Delivered</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in issued.issued" :key="r.id" :class="{ opened: r.id === opened }">
          <td>
            <b>{{ r.title }}</b><br /><span class="small quiet"
              >{{ wordsOf(r.kind) }} · {{ r.scope }}</span
            >
          </td>
          <td class="nowrap">
            <span class="mono"><Moment :at="r.asAt" /></span><br />
            <span class="small quiet"
              >{{ r.from ? `since ${time(r.from)}, ` : '' }}by {{ r.madeBy }}</span
            >
          </td>
          <td>
            <span v-if="r.problem" class="wrong">not made: {{ r.problem }}</span>
            <span v-else class="links">
              <a v-if="r.pack" :href="`/api/packs/${r.pack}/report`" target="_blank" rel="noopener"
                >Read</a
              >
              <a
                v-for="f in inOrder(r)"
                :key="f.name"
                :href="file(r, f.name)"
                :target="f.name.endsWith('.html') ? '_blank' : undefined"
                rel="noopener"
                :title="`${f.name}, ${bytes(f.bytes)}, SHA-256 ${f.sha256}`"
                >{{ label(f.name, r) }}</a
              >
            </span>
          </td>
          <td>
            <span
              v-for="d in r.deliveries"
              :key="d.id"
              class="line"
              :class="{ wrong: d.state === 'failed' }"
              >{{ reached(d.how, d.recipient) }}: {{ stateOf(d) }}</span
            >
            <span v-if="!r.deliveries.length" class="quiet">lies here</span>
          </td>
        </tr>
      </tbody>
    </table>
    <TakeAway
      v-if="issued?.issued.length"
      name="reports-issued"
      :rows="() => issued?.issued ?? []"
    />
  </section>
  <ReportForm
    v-if="editing && kinds"
    :start="editing === 'new' ? undefined : editing"
    :kinds="kinds"
    @close="editing = undefined"
    @saved="refresh()"
  />
</template>

<style scoped>
.lead {
  margin: 0 0 10px;
}
.now {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) minmax(340px, 1.4fr) 110px auto;
  gap: 12px;
  align-items: center;
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.links > * {
  display: inline-flex;
  align-items: center;
  min-width: 24px;
  min-height: 24px;
}
.line {
  display: block;
}
.opened td {
  background: var(--sheet);
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 900px) {
  .now {
    grid-template-columns: 1fr;
  }
}
</style>
