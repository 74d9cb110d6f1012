<script setup lang="ts">
import { computed } from 'vue'
import type { StoreView } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import Moment from '@/frame/Moment.vue'
import TakeAway from '@/frame/TakeAway.vue'
import { bytes, count, relative, words } from '@/wording/format'

/** Where a store's list and what is claimed of it differ. */
const props = defineProps<{ store: StoreView }>()
const { data, problem, refresh } = useServerData('/api/store-differences', () => ({
  params: { query: { store: props.store.store } },
}))
useEvents({ facts: () => void refresh() })

const SHOWN = 100
const done = computed(() => props.store.done)
/** What the list could not judge. */
const silent = computed(() => {
  const c = done.value
  if (!c) return []
  const lines: string[] = []
  if (c.noPlace)
    lines.push(
      `${count(c.noPlace, 'copy has', 'copies have')} no place, so nobody can look for ${c.noPlace === 1 ? 'it' : 'them'}`,
    )
  if (c.locksAsked && !c.locksKnown) lines.push('the store says nothing of locks')
  else if (c.locksAsked > c.locksKnown)
    lines.push(`of ${c.locksAsked - c.locksKnown} copies the store says nothing of a lock`)
  return lines
})
</script>

<template>
  <div class="differ">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <p v-if="done" class="small">
      <span :title="done.endedAt">{{ relative(done.endedAt ?? done.startedAt) }}</span>:
      {{ done.sentence
      }}<template v-if="done.olderBytes">
        ; {{ bytes(done.olderBytes) }} of older versions are kept</template
      ><template v-if="silent.length">; not known: {{ silent.join('; ') }}</template
      >.
    </p>
    <p v-else class="small quiet">No list of this store has come to its end yet.</p>
    <template v-if="data">
      <h3 v-if="data.differing.length">Not as claimed</h3>
      <table v-if="data.differing.length" class="plain">
        <tbody>
          <tr v-for="d in data.differing.slice(0, SHOWN)" :key="d.point">
            <td class="nowrap">
              <b>{{ words(d.state) }}</b>
            </td>
            <td class="nowrap">
              <router-link :to="{ name: 'board', query: { w: d.workload } }">{{
                d.resourceName
              }}</router-link>
            </td>
            <td>{{ d.sentence }}</td>
            <td class="quiet nowrap" :title="d.since">found {{ relative(d.since) }}</td>
          </tr>
        </tbody>
      </table>
      <h3 v-if="data.untold.length">Told by no feed, the largest first</h3>
      <table v-if="data.untold.length" class="plain">
        <tbody>
          <tr v-for="u in data.untold.slice(0, SHOWN)" :key="u.place">
            <td class="mono place">{{ u.place }}</td>
            <td class="n mono nowrap">{{ bytes(u.sizeBytes) }}</td>
            <td class="mono nowrap"><Moment :at="u.modifiedAt" /></td>
          </tr>
        </tbody>
      </table>
      <p v-if="data.untold.length > SHOWN" class="quiet small">
        {{ SHOWN }} of {{ done?.untold ?? data.untold.length }}; take them away to see more.
      </p>
      <p v-if="!data.differing.length && !data.untold.length && done" class="small quiet">
        Nothing differs.
      </p>
      <TakeAway
        v-if="data.untold.length || data.differing.length"
        name="store-differences"
        :rows="() => [...(data?.differing ?? []), ...(data?.untold ?? [])]"
      />
    </template>
  </div>
</template>

<style scoped>
.differ {
  padding: 2px 0 12px 18px;
}
.bad {
  color: var(--disproven);
}
h3 {
  font-size: 13px;
  margin: 8px 0 2px;
}
p {
  margin: 2px 0;
}
.place {
  overflow-wrap: anywhere;
}
</style>
