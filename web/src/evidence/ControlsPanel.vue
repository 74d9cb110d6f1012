<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { ControlView } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import SelectorFilter from '@/frame/SelectorFilter.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useWhich } from '@/frame/useWhich'
import { count, share } from '@/wording/format'

/** One row a public control: what its criteria came to, and what of it nothing here looks at. */
const which = useWhich()
const { from, when, query } = useAsAt()
const asked = computed(() => ({
  ...when.value,
  from: from.value || undefined,
  selector: which.value,
}))
const { data, problem, fetching } = useServerData('/api/controls', () => ({
  params: { query: asked.value },
}))
const open = ref('')

const table = computed(() => {
  const query = new URLSearchParams(
    Object.entries(asked.value).filter((e): e is [string, string] => !!e[1]),
  )
  return `/api/controls.csv?${query}`
})

const STATES = [
  ['not-met', 'not met'],
  ['not-enough-data', 'not enough data'],
  ['excepted', 'excepted'],
  ['met', 'met'],
  ['not-applicable', 'not applicable'],
] as const

const GLYPHS: Record<string, string> = {
  satisfied: '✓',
  'other-than-satisfied': '✕',
  'not-enough-data': '?',
  excepted: '≈',
  'not-applicable': '–',
  'not-looked-at': '·',
}

function tally(outcomes: Record<string, number>): string {
  const parts = STATES.filter(([code]) => outcomes[code]).map(([c, w]) => `${outcomes[c]} ${w}`)
  return parts.join(', ') || 'nothing it is asked of'
}

const publications = computed(() => {
  const groups = new Map<string, ControlView[]>()
  data.value?.controls.forEach((c) =>
    groups.set(c.publication, [...(groups.get(c.publication) ?? []), c]),
  )
  return [...groups]
})

const sentence = computed(() => {
  const all = data.value?.controls ?? []
  const of = (state: string) => all.filter((c) => c.state === state).length
  return (
    `${count(all.length, 'control', 'controls')}: ${of('satisfied')} satisfied as far as looked at, ` +
    `${of('other-than-satisfied')} other than satisfied, ${of('not-enough-data')} without enough data, ` +
    `${of('not-looked-at')} not looked at.`
  )
})
</script>

<template>
  <section aria-label="By control">
    <div class="row-between">
      <p v-if="data" class="lead">{{ sentence }}</p>
      <div class="row small">
        <SelectorFilter />
        <a :href="table" download="controls.csv">As CSV</a>
      </div>
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!data && fetching" type="table-row@8" color="background" />
    <template v-if="data">
      <p class="small quiet">
        Outcomes as at <Moment :at="data.asAt" />. The share is of the time since
        <Moment :at="data.from" />
        <template v-if="data.watchedSince && data.watchedSince > data.from">
          as far as this installation has looked, since <Moment :at="data.watchedSince" />,
        </template>
        in which nothing of it was found broken; what an exception accepts counts as broken.
      </p>
      <table class="plain controls">
        <thead>
          <tr>
            <th>Control</th>
            <th>State</th>
            <th class="n">Share of time met</th>
            <th>Outcomes</th>
            <th>Not looked at here</th>
          </tr>
        </thead>
        <tbody v-for="[publication, controls] in publications" :key="publication">
          <tr class="publication">
            <th colspan="5" scope="rowgroup">{{ publication }}</th>
          </tr>
          <template v-for="c in controls" :key="c.reference">
            <tr>
              <td>
                <button
                  class="link"
                  :aria-expanded="open === c.reference"
                  @click="open = open === c.reference ? '' : c.reference"
                >
                  {{ c.reference }}
                </button>
                <br /><span class="small quiet">{{ c.title }}</span>
              </td>
              <td class="state" :class="c.state">
                <span aria-hidden="true">{{ GLYPHS[c.state] }}</span> {{ c.words }}
              </td>
              <td class="n mono">{{ c.shareMet == null ? '–' : share(c.shareMet) }}</td>
              <td>{{ c.criteria.length ? tally(c.outcomes) : 'no criterion serves it' }}</td>
              <td class="small quiet">{{ c.notLookedAt }}</td>
            </tr>
            <tr v-if="open === c.reference">
              <td colspan="5" class="detail">
                <p v-for="t in c.tiers" :key="t.tier">
                  <b>Tier {{ t.tier }}</b
                  >: {{ tally(t.outcomes)
                  }}<template v-if="t.shareMet != null">
                    · met <span class="mono">{{ share(t.shareMet) }}</span> of the time</template
                  >
                </p>
                <p v-if="c.criteria.length">
                  Served by
                  <template v-for="(k, i) in c.criteria" :key="k.code"
                    ><template v-if="i">, </template
                    ><router-link
                      :to="{
                        name: 'findings',
                        query: { ...query, group: 'criterion', in: k.code },
                      }"
                      >{{ k.title }}</router-link
                    ></template
                  >.
                </p>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.lead {
  margin: 0;
}
.controls td {
  vertical-align: top;
}
.publication th {
  padding-top: 14px;
  color: var(--quiet);
  font-weight: 600;
}
.state {
  white-space: nowrap;
  font-weight: 600;
}
.satisfied {
  color: var(--proven);
}
.other-than-satisfied,
.wrong {
  color: var(--disproven);
}
.detail p {
  margin: 2px 0;
}
</style>
