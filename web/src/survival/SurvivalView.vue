<script setup lang="ts">
import { computed, ref } from 'vue'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import type { FateLine } from '@/api/types'
import { useAsAt } from '@/frame/useAsAt'
import TakeAway from '@/frame/TakeAway.vue'
import RehearsalForm from '@/rehearsals/RehearsalForm.vue'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import { bytes, count, duration, relative } from '@/wording/format'
import LossPlates from './LossPlates.vue'
import ReturnCurve from './ReturnCurve.vue'
import { nothing, ofRank, pressed, same, type Part } from './loss'

/** What is left after a loss: of which workloads, from when, and how soon. */
const { when, query, lookingBack } = useAsAt()
const session = useSession()
const { whyNotWork } = useMay()
const mayWork = computed(() => session.mayWork && !lookingBack.value)
const rehearsing = ref<FateLine>()
const loss = ref(nothing())
const tainted = ref('')
const asked = computed(() => ({
  ...when.value,
  site: loss.value.site,
  region: loss.value.region,
  store: loss.value.store,
  domain: loss.value.domain,
  intruder: loss.value.intruder || undefined,
  taintedAfter: loss.value.taintedAfter || undefined,
}))
const { data, problem, refresh } = useServerData('/api/survival', () => ({
  params: { query: asked.value },
}))
const { data: ranking, refresh: rankAgain } = useServerData('/api/survival/ranking', () => ({
  params: { query: when.value },
}))
useEvents({
  facts: () => {
    void refresh()
    void rankAgain()
  },
})

const SHOWN = 200
const hurting = computed(() => (ranking.value ?? []).filter((r) => r.lost || r.late))
const harmless = computed(() => (ranking.value ?? []).length - hurting.value.length)

function press(part: Part, name: string) {
  loss.value = pressed(loss.value, part, name)
}
/** A time of the person's own clock; cleared, nothing is tainted. */
function taint(value: string) {
  tainted.value = value
  const at = value ? new Date(value) : undefined
  loss.value = {
    ...loss.value,
    taintedAfter: at && !Number.isNaN(at.getTime()) ? at.toISOString() : '',
  }
}
function clear() {
  tainted.value = ''
  loss.value = nothing()
}

const FATES: Record<FateLine['fate'], { glyph: string; word: string }> = {
  lost: { glyph: '✕', word: 'Lost' },
  late: { glyph: '◔', word: 'Late' },
  'not-known': { glyph: '?', word: 'Not known' },
  survives: { glyph: '✓', word: 'Survives' },
  'had-nothing': { glyph: '–', word: 'Had nothing' },
}
const table = computed(() =>
  (data.value?.workloads ?? []).map((l) => ({
    fate: FATES[l.fate].word,
    workload: l.name,
    tier: l.tier,
    data_of: l.exposureMs === undefined ? '' : duration(l.exposureMs),
    back_after: l.backMs === undefined ? '' : duration(l.backMs),
    shown: l.rung ?? '',
    rehearsed: l.rehearsedAt ?? '',
    why: l.sentence,
  })),
)
</script>

<template>
  <div class="page two">
    <aside aria-label="Which losses hurt most">
      <h2>What hurts most</h2>
      <p class="small quiet">
        Press one to lose it. Only data counts here, not how late it is back.
      </p>
      <v-skeleton-loader v-if="!ranking" type="paragraph" color="background" />
      <p v-else-if="!hurting.length" class="small">
        No single loss and no pair of stores takes a workload that has anything.
      </p>
      <ol class="ranks">
        <li v-for="r in hurting" :key="r.words">
          <button
            :aria-pressed="same(loss, ofRank(r))"
            @click="same(loss, ofRank(r)) ? clear() : ((tainted = ''), (loss = ofRank(r)))"
          >
            <span class="what">{{ r.words }}</span>
            <span class="small"
              ><template v-if="r.lost"
                ><b class="bad">{{ r.lost }} lost</b></template
              ><template v-if="r.lost && r.late">, </template
              ><template v-if="r.late">{{ r.late }} late</template></span
            >
          </button>
        </li>
      </ol>
      <p v-if="harmless > 0" class="small quiet">
        {{ count(harmless, 'other takes', 'others take') }} nothing.
      </p>
    </aside>

    <div class="answer">
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      <v-skeleton-loader v-if="!data" type="paragraph, image" color="background" />
      <template v-else>
        <p class="lead">
          If we lost <b>{{ data.loss }}</b>: {{ data.sentence }}.
        </p>
        <p class="small quiet">
          {{ bytes(data.bytes) }} to restore, {{ data.atOnce }} at once, by tier.
          {{ data.proof[0]?.toUpperCase() }}{{ data.proof.slice(1) }}.
        </p>
        <LossPlates :plates="data.plates" :loss="loss" @press="press" />
        <p v-if="!data.plates.length" class="quiet">
          No store is known yet. Bring in stores.csv in Feeds.
        </p>
        <div class="more">
          <v-checkbox
            :model-value="loss.intruder"
            label="An intruder deletes what an administrator could: online, not locked"
            hide-details
            @update:model-value="loss = { ...loss, intruder: !!$event }"
          />
          <v-text-field
            :model-value="tainted"
            type="datetime-local"
            label="Data is tainted after"
            hide-details
            class="when"
            @update:model-value="taint($event ?? '')"
          />
          <v-btn :disabled="same(loss, nothing())" @click="clear">All back</v-btn>
        </div>
        <div class="outlook">
          <ReturnCurve :lines="data.workloads" />
          <table class="plain tiers">
            <thead>
              <tr>
                <th>Tier</th>
                <th class="n">Back</th>
                <th class="n">After</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in data.tiers" :key="t.tier">
                <td>{{ t.tier }}</td>
                <td class="n mono">{{ t.back }} of {{ t.all }}</td>
                <td class="n mono nowrap">
                  {{ t.backMs === undefined ? 'never' : duration(t.backMs) }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>

        <div class="row-between">
          <h2>Workloads</h2>
          <TakeAway :rows="() => table" name="survival" />
        </div>
        <div class="wide">
          <table class="plain">
            <thead>
              <tr>
                <th>Fate</th>
                <th>Workload</th>
                <th class="n">Tier</th>
                <th class="n">Data of</th>
                <th class="n">Back after</th>
                <th class="after">Shown from what is left</th>
                <th>Rehearsed so</th>
                <th>Why</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in data.workloads.slice(0, SHOWN)" :key="l.workload">
                <td class="nowrap fate" :class="l.fate">
                  <span aria-hidden="true">{{ FATES[l.fate].glyph }}</span> {{ FATES[l.fate].word }}
                </td>
                <td>
                  <router-link :to="{ name: 'board', query: { w: l.workload, ...query } }">{{
                    l.name
                  }}</router-link>
                </td>
                <td class="n mono">{{ l.tier ?? '?' }}</td>
                <td class="n mono nowrap" :title="`RPO ${duration(l.rpoMs)}`">
                  {{ l.exposureMs === undefined ? '–' : `${duration(l.exposureMs)} ago` }}
                </td>
                <td class="n mono nowrap" :title="`RTO ${duration(l.rtoMs)}`">
                  {{ l.backMs === undefined ? '–' : duration(l.backMs) }}
                </td>
                <td class="after" :title="`${l.demanded} demanded`">{{ l.rung ?? 'not shown' }}</td>
                <td class="nowrap small">
                  <template v-if="l.rehearsedAt">{{ relative(l.rehearsedAt) }}</template>
                  <button
                    v-else-if="l.fate === 'survives' || l.fate === 'late'"
                    type="button"
                    class="link"
                    :disabled="!mayWork"
                    :title="whyNotWork"
                    :aria-label="`Rehearse ${l.name} from what is left`"
                    @click="rehearsing = l"
                  >
                    rehearse
                  </button>
                  <span v-else class="quiet">–</span>
                </td>
                <td class="small quiet">{{ l.sentence }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <RehearsalForm
          v-if="rehearsing"
          :workload="rehearsing.workload"
          :name="rehearsing.name"
          :loss="loss"
          :loss-words="data.loss"
          @close="rehearsing = undefined"
        />
        <p v-if="data.workloads.length > SHOWN" class="small quiet">
          The {{ SHOWN }} worst of {{ data.workloads.length }}; CSV and JSON have all.
        </p>
      </template>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 250px 1fr;
  gap: 0 28px;
}
.ranks {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.ranks button {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  min-height: 32px;
  padding: 4px 6px;
  border: 0;
  border-bottom: 1px solid var(--rule);
  background: none;
  color: inherit;
  font: 13px/1.35 var(--sans);
  text-align: left;
  cursor: pointer;
}
.ranks button[aria-pressed='true'] {
  background: var(--selected);
}
.ranks .small {
  white-space: nowrap;
}
.bad {
  color: var(--disproven);
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  margin: 8px 0;
}
.more .when {
  max-width: 230px;
}
.outlook {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 240px;
  gap: 28px;
  align-items: start;
  margin: 10px 0;
}
.fate {
  font-weight: 500;
}
.fate.lost {
  color: var(--disproven);
}
.fate.late {
  color: var(--lapsed);
}
.fate.survives {
  color: var(--proven);
}
</style>
