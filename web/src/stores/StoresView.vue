<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'
import { useRoute } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { StoreView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import TakeAway from '@/frame/TakeAway.vue'
import { useMay } from '@/people/useMay'
import { bytes, count, relative } from '@/wording/format'
import DiscoverySheet from '@/discovery/DiscoverySheet.vue'
import ConnectionForm from './ConnectionForm.vue'
import StoreDifferences from './StoreDifferences.vue'
import { listedLine, reachedLine, total } from './census'

/** How each store is reached, and what it itself says lies on it. */
const { whyNotWork, whyNotKeepStandards: whyNotConnect } = useMay()
const { data, problem, refresh } = useServerData('/api/stores')
const { attempt, problem: refused } = useAttempt()
const { query: asked } = useRoute()
const shown = ref(typeof asked.store === 'string' ? asked.store : '')
const looked = ref('')
const connecting = ref<StoreView>()

const running = computed(() => (data.value ?? []).some((s) => s.census?.state === 'running'))
const sum = computed(() => total(data.value ?? []))
useEvents({ facts: () => void refresh(), census: () => void refresh() })
const timer = setInterval(() => {
  if (running.value) void refresh()
}, 1500)
onScopeDispose(() => clearInterval(timer))

async function list(store: string) {
  await attempt(async () => {
    await answerOf(api.POST('/api/censuses', { body: { store } }))
    await refresh()
  })
}

async function cancel(id: number) {
  await attempt(async () => {
    await answerOf(api.DELETE('/api/censuses/{id}', { params: { path: { id } } }))
    await refresh()
  })
}

/** What differs in it, as far as a census told. */
function differs(s: StoreView): number {
  return s.done ? s.done.claimed - s.done.there : 0
}

async function followed() {
  looked.value = ''
  await refresh()
}

async function connected() {
  connecting.value = undefined
  await refresh()
}
</script>

<template>
  <div class="page">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!data && !problem" type="paragraph, table" color="background" />
    <template v-if="data">
      <p class="lead">
        <template v-if="!data.length">
          No store is known yet. A feed names stores;
          <router-link to="/feeds">bring one in</router-link>.
        </template>
        <template v-else>
          {{ count(data.length, 'store', 'stores')
          }}<template v-if="sum.away"
            >, <b class="bad">{{ sum.away }} can’t be reached</b></template
          ><template v-if="sum.unknown">, {{ sum.unknown }} nobody said how to reach</template>.
          <template v-if="sum.claimed"
            >By what they list themselves, <b>{{ sum.there }}</b> of
            {{ count(sum.claimed, 'claimed copy', 'claimed copies') }}
            {{ sum.there === 1 ? 'is' : 'are' }} there as claimed<template v-if="sum.untold"
              >; {{ count(sum.untold, 'file lies', 'files lie') }} there that no feed tells
              of</template
            >.</template
          >
        </template>
      </p>
      <p v-if="refused" class="bad" role="alert">{{ refused }}</p>
      <div v-if="data.length" class="wide">
        <table class="plain stores">
          <thead>
            <tr>
              <th>Store</th>
              <th>Reached as</th>
              <th>Listed</th>
              <th class="n">As claimed</th>
              <th class="n">Not as claimed</th>
              <th class="n">Told by no feed</th>
              <th></th>
            </tr>
          </thead>
          <tbody v-for="s in data" :key="s.store">
            <tr>
              <td>
                <b>{{ s.name }}</b> <span class="quiet small">{{ s.site }}</span>
              </td>
              <td class="where">
                {{ reachedLine(s) }}
                <span v-if="s.where" class="mono small quiet">{{ s.where }}</span>
                <span v-if="s.away" class="bad small">{{ s.away }}</span>
              </td>
              <td class="small">
                <template v-if="s.census?.state === 'running'"
                  >{{ count(s.census.things, 'file', 'files') }} so far</template
                >
                <template v-else-if="s.census">
                  <span :title="s.census.startedAt">{{ relative(s.census.startedAt) }}</span>
                  <span v-if="s.census.state !== 'done'" class="bad">{{ s.census.state }}</span>
                </template>
                <span v-else class="quiet">never</span>
              </td>
              <td class="n mono">{{ s.done ? `${s.done.there} of ${s.done.claimed}` : '–' }}</td>
              <td class="n mono">
                <b :class="{ bad: differs(s) }">{{ s.done ? differs(s) : '–' }}</b>
              </td>
              <td class="n mono nowrap">
                {{ s.done ? s.done.untold : '–' }}
                <span v-if="s.done?.untold" class="quiet small">{{
                  bytes(s.done.untoldBytes)
                }}</span>
              </td>
              <td class="acts">
                <button
                  class="link small"
                  :aria-expanded="shown === s.store"
                  :disabled="!s.census"
                  :title="s.census ? undefined : 'It was never listed'"
                  @click="shown = shown === s.store ? '' : s.store"
                >
                  {{ shown === s.store ? 'Close' : 'What differs' }}
                </button>
                <button
                  v-if="s.census?.state === 'running'"
                  class="link small"
                  :disabled="!!whyNotWork"
                  :title="whyNotWork || undefined"
                  @click="cancel(s.census.id)"
                >
                  Stop listing
                </button>
                <button
                  v-else
                  class="link small"
                  :disabled="!!whyNotWork || s.reached === 'not-known'"
                  :title="
                    whyNotWork ||
                    (s.reached === 'not-known' ? 'Say first how it is reached' : undefined)
                  "
                  @click="list(s.store)"
                >
                  List it now
                </button>
                <button
                  class="link small"
                  :disabled="!!whyNotWork || s.reached === 'not-known'"
                  :title="
                    whyNotWork ||
                    (s.reached === 'not-known' ? 'Say first how it is reached' : undefined)
                  "
                  @click="looked = looked === s.store ? '' : s.store"
                >
                  Look into it
                </button>
                <button
                  class="link small"
                  :disabled="!!whyNotConnect"
                  :title="whyNotConnect || undefined"
                  @click="connecting = s"
                >
                  How it is reached
                </button>
              </td>
            </tr>
            <tr v-if="s.census && s.census.state !== 'done' && s.census.state !== 'running'">
              <td colspan="7" class="small said">{{ listedLine(s.census) }}</td>
            </tr>
            <tr v-if="looked === s.store">
              <td colspan="7">
                <DiscoverySheet
                  :store="s.store"
                  :name="s.name"
                  @close="looked = ''"
                  @followed="followed"
                />
              </td>
            </tr>
            <tr v-if="shown === s.store">
              <td colspan="7"><StoreDifferences :store="s" /></td>
            </tr>
          </tbody>
        </table>
        <TakeAway name="stores-listed" :rows="() => data ?? []" />
      </div>
      <p class="quiet small">
        Each store that can be reached is listed once a day. A list reads none of the data: what it
        shows is that copies are there, not that they are whole.
      </p>
    </template>
    <ConnectionForm
      v-if="connecting"
      :store="connecting"
      @close="connecting = undefined"
      @connected="connected"
    />
  </div>
</template>

<style scoped>
.lead {
  margin: 0 0 8px;
}
.bad {
  color: var(--disproven);
}
.where span {
  display: block;
  max-width: 340px;
  overflow-wrap: anywhere;
}
.acts {
  white-space: nowrap;
}
.acts button + button {
  margin-left: 12px;
}
.acts button:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}
.said {
  color: var(--disproven);
  padding-top: 0;
}
</style>
