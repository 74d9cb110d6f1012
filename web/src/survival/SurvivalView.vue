<script setup lang="ts">
import { computed, ref } from 'vue'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import type { FateLine } from '@/api/types'
import { useAsAt } from '@/frame/useAsAt'
import RehearsalForm from '@/rehearsals/RehearsalForm.vue'
import { bytes, count, duration } from '@/wording/format'
import FateTable from './FateTable.vue'
import KeptLosses from './KeptLosses.vue'
import LossPlates from './LossPlates.vue'
import ReturnCurve from './ReturnCurve.vue'
import { asked, named, nothing, pressed, same, type Loss, type Part } from './loss'

/** What is left after a loss: of which workloads, from when, and how soon. */
const { when, query } = useAsAt()
const rehearsing = ref<FateLine>()
const loss = ref(nothing())
const tainted = ref('')
const { data, problem, refresh } = useServerData('/api/survival', () => ({
  params: { query: { ...when.value, ...asked(loss.value) } },
}))
const { data: remedies, refresh: tryAgain } = useServerData('/api/survival/remedies', () => ({
  params: { query: { ...when.value, ...asked(loss.value) } },
}))
const { data: ranking, refresh: rankAgain } = useServerData('/api/survival/ranking', () => ({
  params: { query: when.value },
}))
const { data: moves, refresh: movesAgain } = useServerData('/api/moves', () => ({
  params: { query: when.value },
}))
useEvents({
  facts: () => {
    void refresh()
    void tryAgain()
    void rankAgain()
    void movesAgain()
  },
})

const hurting = computed(() => (ranking.value ?? []).filter((r) => r.lost || r.late))
const harmless = computed(() => (ranking.value ?? []).length - hurting.value.length)

function press(part: Part, name: string) {
  loss.value = pressed(loss.value, part, name)
}
/** A time of the person's own clock; cleared, nothing is tainted by it. */
function taint(value: string) {
  tainted.value = value
  const at = value ? new Date(value) : undefined
  loss.value = {
    ...loss.value,
    taintedAfter: at && !Number.isNaN(at.getTime()) ? at.toISOString() : '',
  }
}
function lose(other: Loss) {
  tainted.value = other.taintedAfter ? ownClock(new Date(other.taintedAfter)) : ''
  loss.value = other
}
/** As the field for a time wants it. */
function ownClock(at: Date): string {
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}
</script>

<template>
  <div class="page two">
    <aside aria-label="Which losses hurt most">
      <h2>What hurts most</h2>
      <p class="small quiet">
        Press one to lose it. Data and needs count here, not how late all is back.
      </p>
      <v-skeleton-loader v-if="!ranking" type="paragraph" color="background" />
      <p v-else-if="!hurting.length" class="small">
        No single loss and no pair of stores takes a workload that has anything.
      </p>
      <ol class="ranks">
        <li v-for="r in hurting" :key="r.words">
          <button
            :aria-pressed="same(loss, named(r.loss))"
            @click="lose(same(loss, named(r.loss)) ? nothing() : named(r.loss))"
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
      <KeptLosses :loss="loss" :words="data?.loss ?? ''" @lose="lose" />
      <h2>Going back</h2>
      <p class="small">
        <template v-if="moves?.length">
          <router-link :to="{ name: 'going-back', query }">{{
            count(moves.length, 'workload', 'workloads')
          }}</router-link>
          with members that went to another site.
        </template>
        <span v-else class="quiet">Nothing is known to run elsewhere than before.</span>
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
          <v-select
            v-model="loss.feed"
            :items="data.feeds"
            label="Feeds that are not trusted"
            multiple
            hide-details
            clearable
            class="some"
          />
          <v-select
            v-if="data.holders.length"
            v-model="loss.holder"
            :items="data.holders"
            label="People and safes that are lost"
            multiple
            hide-details
            clearable
            class="some"
          />
          <v-btn :disabled="same(loss, nothing())" @click="lose(nothing())">All back</v-btn>
        </div>
        <template v-if="remedies?.length">
          <h2>What would help</h2>
          <ul class="remedies small">
            <li
              v-for="c in remedies"
              :key="c.words"
              :title="[...new Set([...c.copied, ...c.keyed])].slice(0, 12).join(', ')"
            >
              {{ c.words[0]?.toUpperCase() }}{{ c.words.slice(1) }}.
            </li>
          </ul>
        </template>
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

        <FateTable :lines="data.workloads" @rehearse="rehearsing = $event" />
        <RehearsalForm
          v-if="rehearsing"
          :workload="rehearsing.workload"
          :name="rehearsing.name"
          :loss="asked(loss)"
          :loss-words="data.loss"
          @close="rehearsing = undefined"
        />
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
aside h2:not(:first-child),
.answer > h2 {
  margin-top: 18px;
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
.more .some {
  flex: 1 1 200px;
  max-width: 300px;
}
.outlook {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 240px;
  gap: 28px;
  align-items: start;
  margin: 10px 0;
}
.remedies {
  margin: 4px 0 10px;
  padding-left: 18px;
}
</style>
