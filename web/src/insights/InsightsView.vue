<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import { now as clockNow } from '@/wording/clock'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useServerData } from '@/api/useServerData'
import SelectorFilter from '@/frame/SelectorFilter.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useWhich } from '@/frame/useWhich'
import VerdictMark from '@/proof/VerdictMark.vue'
import { bytes, count, duration, share, words } from '@/wording/format'
import ShareCourse from './ShareCourse.vue'
import TrendLine from './TrendLine.vue'

/** A period on one page that somebody who is not of the trade understands; made to be printed. */
const route = useRoute()
const which = useWhich()
const { asAt, from, known, query, setPeriod } = useAsAt()
const MONTH = 30 * 86_400_000
const begin = computed(
  () =>
    from.value ||
    new Date(
      Math.floor((asAt.value ? Date.parse(asAt.value) : clockNow()) / 60_000) * 60_000 - MONTH,
    )
      .toISOString()
      .replace('.000Z', 'Z'),
)
const { data, problem, fetching } = useServerData('/api/insights', () =>
  route.name === 'insights'
    ? {
        params: {
          query: {
            from: begin.value,
            to: asAt.value,
            knownAt: asAt.value ? known.value : 'now',
            selector: which.value,
          },
        },
      }
    : undefined,
)
const PERIODS = [
  { days: 7, title: 'a week' },
  { days: 14, title: 'two weeks' },
  { days: 30, title: 'a month' },
]
const end = computed(() => data.value?.to ?? '')

function since(days: number) {
  const until = asAt.value ? Date.parse(asAt.value) : clockNow()
  setPeriod(
    new Date(Math.floor(until / 60_000) * 60_000 - days * 86_400_000)
      .toISOString()
      .replace('.000Z', 'Z'),
    asAt.value,
  )
}
const print = () => window.print()
</script>

<template>
  <div class="page insights">
    <div class="row-between no-print">
      <div class="row small">
        over
        <button v-for="p in PERIODS" :key="p.days" class="link" @click="since(p.days)">
          {{ p.title }}
        </button>
        <span class="quiet">or any period by “As at”</span>
        <SelectorFilter />
      </div>
      <v-btn @click="print">Print</v-btn>
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-skeleton-loader
      v-if="!data && fetching"
      type="heading, paragraph, image"
      color="background"
    />
    <template v-if="data">
      <h1>
        <Moment :at="data.from" /> to <Moment :at="data.to" />,
        {{ asAt && known === 'then' ? 'by what was known then' : 'in hindsight' }}
      </h1>
      <p v-if="data.scope" class="small">Only resources where {{ data.scope }}.</p>
      <p v-for="s in data.sentences" :key="s" class="lead">{{ s }}</p>
      <div class="columns">
        <section class="block">
          <h2>How the limit of data loss was kept</h2>
          <table class="plain">
            <thead>
              <tr>
                <th>Tier</th>
                <th class="n">Resources</th>
                <th class="n">On average</th>
                <th class="n">Worst</th>
                <th>Over the period</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in data.attainment" :key="t.tier">
                <td>{{ t.tier }}</td>
                <td class="n">{{ t.resources }}</td>
                <td class="n">{{ share(t.mean) }}</td>
                <td class="n" :title="t.worstName">{{ share(t.worst) }}</td>
                <td><ShareCourse :shares="t.course" :tier="t.tier" /></td>
              </tr>
            </tbody>
          </table>
        </section>
        <section class="block">
          <h2>What moved</h2>
          <p v-if="!data.differences.moves.length" class="small quiet">No verdict moved.</p>
          <p v-for="m in data.differences.moves" :key="m.workload" class="move">
            <router-link :to="{ name: 'board', query: { w: m.workload, ...query } }">{{
              m.name
            }}</router-link>
            <VerdictMark v-if="m.from" :verdict="m.from" /><span v-else class="small quiet"
              >not there</span
            >
            →
            <VerdictMark v-if="m.to" :verdict="m.to" />
            <span class="small quiet">{{ m.because }}</span>
          </p>
        </section>
        <section class="block">
          <h2>Gaps</h2>
          <p>
            {{ data.openAtStart }} open at the start, {{ data.opened }} opened,
            {{ data.closed }} closed, <b>{{ data.openAtEnd }} open at the end</b>.
            <template v-if="data.meanToFixMs"
              >From finding to fix: {{ duration(data.meanToFixMs) }} on average.</template
            >
          </p>
        </section>
        <section class="block">
          <h2>Proof</h2>
          <p>
            {{ count(data.gained.length, 'proof', 'proofs') }} gained,
            {{ count(data.lapsed.length, 'proof', 'proofs') }} lapsed.
          </p>
          <p v-for="p in data.gained.slice(-8)" :key="'g' + p.resource + p.at" class="small">
            + {{ p.name }}: {{ p.rung }}, <Moment :at="p.at" />
          </p>
          <p v-for="p in data.lapsed" :key="'l' + p.resource + p.at" class="small wrong">
            – {{ p.name }}: {{ p.rung }} lapsed, <Moment :at="p.at" />
          </p>
        </section>
        <section class="block">
          <h2>How sure drills make us</h2>
          <p v-for="s in data.sure.sentences" :key="s">{{ s }}</p>
          <table v-if="data.sure.tiers.length" class="plain small apart">
            <thead>
              <tr>
                <th>Tier</th>
                <th class="n">Points</th>
                <th class="n">Drawn</th>
                <th class="n">Failed</th>
                <th class="n">At least</th>
                <th class="n">Asked for</th>
                <th class="n">More draws</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in data.sure.tiers" :key="t.tier">
                <td>{{ t.tier }}</td>
                <td class="n mono">{{ t.population }}</td>
                <td class="n mono">{{ t.drawn }}</td>
                <td class="n mono">{{ t.failed }}</td>
                <td class="n mono">{{ t.drawn ? share(t.atLeast) : 'nothing drawn' }}</td>
                <td class="n mono">{{ t.asked === undefined ? '–' : share(t.asked) }}</td>
                <td class="n mono">
                  {{ t.asked === undefined ? '–' : (t.stillNeeded ?? 'none can') }}
                </td>
              </tr>
            </tbody>
          </table>
          <table v-if="data.sure.strata.length" class="plain small">
            <thead>
              <tr>
                <th>Kind</th>
                <th>Store</th>
                <th class="n">Points</th>
                <th class="n">Drawn</th>
                <th class="n">Failed</th>
                <th class="n">At least</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in data.sure.strata" :key="s.kind + s.store">
                <td>{{ words(s.kind) }}</td>
                <td>{{ s.store }}</td>
                <td class="n mono">{{ s.population }}</td>
                <td class="n mono">{{ s.drawn }}</td>
                <td class="n mono">{{ s.failed }}</td>
                <td class="n mono">{{ s.drawn ? share(s.atLeast) : 'nothing drawn' }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section class="block">
          <h2>Why things failed</h2>
          <p v-if="!data.failures.length" class="small quiet">Nothing failed.</p>
          <p v-for="f in data.failures.slice(0, 8)" :key="f.kind + f.cause" class="small cause">
            <b class="mono">{{ f.times }}×</b> {{ f.kind }} on
            {{ count(f.resources, 'resource', 'resources') }}: {{ f.cause }}
          </p>
        </section>
        <section class="block">
          <h2>Stored</h2>
          <TrendLine
            :values="data.trend.map((t) => t.bytes)"
            :label="`${bytes(data.trend[0]?.bytes ?? 0)} at the start, ${bytes(data.trend[data.trend.length - 1]?.bytes ?? 0)} at the end`"
          />
          <h2>How far back half of the resources reach</h2>
          <TrendLine
            :values="data.trend.map((t) => t.medianReachMs ?? 0)"
            :label="`${duration(data.trend[0]?.medianReachMs ?? 0)} at the start, ${duration(data.trend[data.trend.length - 1]?.medianReachMs ?? 0)} at the end`"
          />
        </section>
      </div>
      <p class="small quiet">
        By what was known at <Moment :at="end" />. Hard Proof,
        {{ data.differences.turned }} outcomes turned.
      </p>
    </template>
  </div>
</template>

<style scoped>
h1 {
  font-size: 17px;
  margin: 8px 0 4px;
}
.apart {
  margin-bottom: 14px;
}
.lead {
  margin: 2px 0;
  font-size: 16px;
}
.columns {
  columns: 2;
  column-gap: 28px;
  margin-top: 12px;
}
.columns > .block {
  break-inside: avoid;
}
p {
  margin: 3px 0;
}
.move {
  display: flex;
  gap: 8px;
  align-items: baseline;
  flex-wrap: wrap;
}
.cause {
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 900px) {
  .columns {
    columns: 1;
  }
}
</style>
<style>
@media print {
  html,
  body,
  #app,
  .insights {
    height: auto !important;
    overflow: visible !important;
  }
  header,
  .band,
  .no-print {
    display: none !important;
  }
}
</style>
