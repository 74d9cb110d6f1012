<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'
import type { StoreRead } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'
import { bytes, count, relative, words } from '@/wording/format'
import DrillForm from '@/drills/DrillForm.vue'
import TakeAway from '@/frame/TakeAway.vue'
import DamageLine from './DamageLine.vue'
import SweepForm from './SweepForm.vue'
import SweepLine from './SweepLine.vue'

/** Which stores and artifacts were read back, what is damaged, and what depends on it. */
const session = useSession()
const { lookingBack, when } = useAsAt()
const { data, problem, refresh } = useServerData('/api/integrity', () => ({
  params: { query: when.value },
}))
const { data: sweeps, refresh: refreshSweeps } = useServerData('/api/sweeps')
const planning = ref<StoreRead>()
const drilling = ref<{ resource: string; point: string }>()
const mayWork = computed(() => session.mayWork && !lookingBack.value)

const open = computed(() => (sweeps.value ?? []).filter((s) => !s.endedAt))
const ended = computed(() => (sweeps.value ?? []).filter((s) => s.endedAt))

useEvents({
  facts: () => void refresh(),
  sweep: () => {
    void refreshSweeps()
    void refresh()
  },
})
const timer = setInterval(() => {
  if (open.value.some((s) => s.state === 'running')) void refreshSweeps()
}, 1000)
onScopeDispose(() => clearInterval(timer))

const SHOWN = 300
const FIND_FROM = 12
const find = ref<string | null>('') // null once it was cleared
const found = computed(() => {
  const text = find.value?.trim().toLowerCase()
  return (data.value?.damaged ?? []).filter(
    (d) =>
      !text ||
      `${d.resourceName} ${d.point} ${d.storeName ?? ''} ${d.sentence}`
        .toLowerCase()
        .includes(text),
  )
})

const total = computed(() => {
  const stores = data.value?.stores ?? []
  return {
    artifacts: stores.reduce((n, s) => n + s.artifacts, 0),
    fresh: stores.reduce((n, s) => n + s.readFresh, 0),
    never: stores.reduce((n, s) => n + s.artifacts - s.readEver, 0),
  }
})

function share(part: number, whole: number): string {
  return whole ? `${Math.floor((100 * part) / whole)} %` : '–'
}

/** Why nobody may read any store back here. */
const nobody = computed(() => {
  if (!session.mayWork) return 'Operators and administrators read back.'
  return lookingBack.value ? 'Reading back is of now, not of a past instant.' : undefined
})

/** Why this one can't be read. */
function why(s: StoreRead): string | undefined {
  if (!s.artifacts) return 'no artifact with a known place'
  if (s.readable) return undefined
  return s.online ? 'can’t be reached from here' : 'offline: can’t be reached from here'
}
</script>

<template>
  <div class="page">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!data" type="paragraph" color="background" />
    <template v-else>
      <p class="lead">
        Of {{ count(total.artifacts, 'artifact', 'artifacts') }} with a known place,
        <b>{{ total.fresh }}</b> were read back whole within 30 days,
        <b>{{ total.never }}</b> never.
        <template v-if="data.damaged.length"
          ><b>{{ count(data.damaged.length, 'thing is', 'things are') }} damaged.</b></template
        >
        <template v-else>Nothing is known to be damaged.</template>
      </p>

      <h2>
        Stores <router-link class="to" to="/feeds/stores">what they list themselves</router-link>
      </h2>
      <p v-if="!data.stores.length" class="quiet">
        No store is known yet. Bring in stores.csv in Feeds.
      </p>
      <p v-if="nobody && data.stores.length" class="quiet">{{ nobody }}</p>
      <div v-if="data.stores.length" class="wide">
        <table class="plain">
          <thead>
            <tr>
              <th>Store</th>
              <th>Medium</th>
              <th class="n">Artifacts</th>
              <th class="n">Size</th>
              <th class="share after">Read within 30 days</th>
              <th class="n">Never</th>
              <th class="after">Least recent</th>
              <th class="n">Damaged</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in data.stores" :key="s.store">
              <td>
                <b>{{ s.name }}</b> <span class="quiet small">{{ s.site }}</span>
              </td>
              <td>{{ words(s.medium) }}{{ s.online ? '' : ', offline' }}</td>
              <td class="n mono">{{ s.artifacts }}</td>
              <td class="n mono nowrap">{{ bytes(s.bytes) }}</td>
              <td class="after nowrap">
                <span class="measure" aria-hidden="true"
                  ><span
                    :style="{ width: s.artifacts ? `${(100 * s.readFresh) / s.artifacts}%` : '0' }"
                /></span>
                <span class="mono small">{{ share(s.readFresh, s.artifacts) }}</span>
              </td>
              <td class="n mono">{{ s.artifacts - s.readEver }}</td>
              <td class="nowrap small after" :title="s.oldestRead">
                {{ s.oldestRead ? relative(s.oldestRead) : '–' }}
              </td>
              <td class="n mono">
                <b :class="{ bad: s.damaged }">{{ s.damaged }}</b>
              </td>
              <td>
                <span v-if="why(s)" class="quiet small">{{ why(s) }}</span>
                <v-btn v-else-if="!nobody" @click="planning = s">Read back</v-btn>
              </td>
            </tr>
          </tbody>
        </table>
        <TakeAway name="stores" :rows="() => data?.stores ?? []" />
      </div>

      <template v-if="open.length">
        <h2>Sweeps under way</h2>
        <SweepLine
          v-for="s in open"
          :key="s.id"
          :sweep="s"
          :may-work="mayWork"
          @changed="refreshSweeps"
        />
      </template>

      <h2>Damaged</h2>
      <p v-if="!data.damaged.length" class="quiet">
        No drill, sweep or feed has shown damage. What was never read may be damaged all the same.
      </p>
      <v-text-field
        v-if="data.damaged.length > FIND_FROM"
        v-model="find"
        class="find"
        placeholder="Find a resource, point, store or what is wrong"
        aria-label="Find a resource, point, store or what is wrong"
        clearable
      />
      <p v-if="data.damaged.length && !found.length" class="quiet">
        Nothing that is damaged matches.
      </p>
      <DamageLine
        v-for="d in found.slice(0, SHOWN)"
        :key="d.point + (d.store ?? '')"
        :damage="d"
        :may-drill="mayWork"
        @drill="drilling = $event"
      />
      <p v-if="found.length > SHOWN" class="quiet small">
        The {{ SHOWN }} found last of {{ found.length }}; find to narrow them.
      </p>

      <template v-if="ended.length">
        <h2>Sweeps done</h2>
        <SweepLine v-for="s in ended.slice(0, 10)" :key="s.id" :sweep="s" :may-work="false" />
      </template>
    </template>
    <SweepForm
      v-if="planning"
      :store="planning"
      @close="planning = undefined"
      @begun="((planning = undefined), refreshSweeps())"
    />
    <DrillForm v-if="drilling" :start="drilling" @close="drilling = undefined" />
  </div>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
.to {
  font-weight: 400;
  font-size: 13px;
  margin-left: 8px;
}
.lead {
  margin: 0;
}
.bad {
  color: var(--disproven);
}
.find {
  max-width: 380px;
  margin-bottom: 8px;
}
.share {
  min-width: 150px;
}
.after {
  padding-left: 24px;
}
.measure {
  display: inline-block;
  width: 92px;
  height: 8px;
  border: 1px solid var(--rule-strong);
  margin-right: 8px;
}
.measure span {
  display: block;
  height: 100%;
  background: var(--bar);
}
</style>
