<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { FetchView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useSession } from '@/people/session'
import { useMay } from '@/people/useMay'
import { duration, relative } from '@/wording/format'
import FetchForm from './FetchForm.vue'

/** Feeds that come by themselves: fetched from an address, or delivered by whoever has a token. */
const props = defineProps<{ feeds: string[]; mayWork: boolean }>()
const emit = defineEmits<{ came: [] }>()

const session = useSession()
const { whyNotWork } = useMay()
const maySay = computed(() => props.mayWork && session.person?.role === 'administrator')
const why = 'Administrators say what this server asks for, and whom it believes.'
const { data, problem: unread, refresh } = useServerData('/api/feed-fetches')
const editing = ref<{ start?: FetchView }>()
const trying = ref('')
const tokenOf = ref('')
const token = ref<{ feed: string; token: string }>()
const { attempt, problem } = useAttempt()

async function fetchNow(feed: string) {
  trying.value = feed
  await attempt(async () => {
    await answerOf(api.POST('/api/feed-fetches/{feed}/tries', { params: { path: { feed } } }))
    await refresh()
    emit('came')
  })
  trying.value = ''
}

const remove = (feed: string) =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/feed-fetches/{feed}', { params: { path: { feed } } }))
    await refresh()
  })

const make = () =>
  attempt(async () => {
    const feed = tokenOf.value.trim()
    const made = await answerOf(
      api.POST('/api/delivery-tokens/{feed}', { params: { path: { feed } } }),
    )
    token.value = { feed, token: made.token }
    tokenOf.value = ''
    await refresh()
  })

const end = (feed: string) =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/delivery-tokens/{feed}', { params: { path: { feed } } }))
    await refresh()
  })

const command = (feed: string, secret: string) =>
  `curl -H 'Authorization: Bearer ${secret}' --data-binary @report.csv ` +
  `'${window.location.origin}/api/deliveries/${encodeURIComponent(feed)}?file=report.csv'`

function kept() {
  editing.value = undefined
  void refresh()
}
</script>

<template>
  <section class="block" aria-label="What comes by itself">
    <div class="row head">
      <h2>What comes by itself</h2>
      <button
        class="link small"
        type="button"
        :disabled="!maySay"
        :title="maySay ? undefined : why"
        @click="editing = {}"
      >
        have a feed fetched
      </button>
    </div>
    <p v-if="unread || problem" class="wrong" role="alert">{{ unread || problem }}</p>
    <p v-if="data && !data.fetches.length && !data.tokens.length" class="small quiet">
      Nothing is fetched, and nobody has a token to deliver with. Feeds also come by the inbox and
      the command line.
    </p>
    <table v-if="data?.fetches.length" class="plain">
      <thead>
        <tr>
          <th>Feed</th>
          <th>Fetched from</th>
          <th>Every</th>
          <th>Last asked</th>
          <th>What came of it</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in data.fetches" :key="f.feed">
          <td>
            <b>{{ f.feed }}</b>
          </td>
          <td class="mono address" :title="f.address">{{ f.address }}</td>
          <td>{{ duration(f.everyMs) }}</td>
          <td class="nowrap">
            <template v-if="f.askedAt"
              ><Moment :at="f.askedAt" />
              <span class="quiet ago">{{ relative(f.askedAt) }}</span></template
            ><template v-else>not yet</template>
          </td>
          <td :class="{ wrong: f.failed }">{{ f.said }}</td>
          <td class="nowrap small">
            <button
              class="link"
              type="button"
              :disabled="!mayWork || !!trying"
              :title="whyNotWork"
              @click="fetchNow(f.feed)"
            >
              {{ trying === f.feed ? 'fetching …' : 'fetch it now' }}
            </button>
            <template v-if="maySay">
              <button class="link" type="button" @click="editing = { start: f }">change</button>
              <button
                class="link"
                type="button"
                :aria-label="`Fetch ${f.feed} no more`"
                @click="remove(f.feed)"
              >
                no more
              </button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
    <ul v-if="data?.tokens.length" class="small tokens">
      <li v-for="t in data.tokens" :key="t.feed">
        <b>{{ t.feed }}</b> may be delivered by whoever has its token, made by {{ t.madeBy }}
        <Moment :at="t.madeAt" />,
        {{ t.usedAt ? `last used ${relative(t.usedAt)}` : 'not used yet' }}.
        <button v-if="maySay" class="link" type="button" @click="end(t.feed)">end it</button>
      </li>
    </ul>
    <form v-if="maySay" class="row small" @submit.prevent="make">
      <label
        >Let others deliver to the feed
        <input v-model="tokenOf" list="feeds-to-deliver" aria-label="Feed to deliver to" />
      </label>
      <datalist id="feeds-to-deliver">
        <option v-for="f in feeds" :key="f" :value="f" />
      </datalist>
      <v-btn type="submit" size="small" :disabled="!tokenOf.trim()">Make a token</v-btn>
    </form>
    <div v-if="token" class="new" role="status">
      <p>
        The token for <b>{{ token.feed }}</b>, which is not shown again:
      </p>
      <p class="mono wrap">{{ token.token }}</p>
      <p class="small quiet mono wrap">{{ command(token.feed, token.token) }}</p>
      <button class="link small" type="button" @click="token = undefined">I have it</button>
    </div>
    <FetchForm
      v-if="editing"
      :start="editing.start"
      :feeds="feeds"
      @close="editing = undefined"
      @kept="kept"
    />
  </section>
</template>

<style scoped>
.block {
  margin-top: 14px;
}
.head {
  align-items: baseline;
}
.address {
  max-width: 340px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.ago {
  margin-left: 6px;
}
td .link {
  margin-right: 8px;
}
.tokens {
  margin: 6px 0 6px 16px;
}
.new {
  border-left: 3px solid var(--rule-strong);
  padding-left: 10px;
  margin-top: 8px;
}
.wrap {
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--disproven);
}
input {
  font: 13px var(--sans);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 2px 5px;
}
p {
  margin: 4px 0;
}
</style>
