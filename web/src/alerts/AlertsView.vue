<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { AlertView, WatchView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import { count, relative, utc } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'
import WatchForm from './WatchForm.vue'

/** What rings, what closed, who is told of what, and what was sent. */
const TABS = ['open', 'closed', 'watches', 'sent'] as const
const route = useRoute()
const router = useRouter()
const tab = computed({
  get: () => TABS.find((t) => t === route.query.tab) ?? 'open',
  set: (t) => void router.replace({ query: { ...route.query, tab: t } }),
})
const { data, problem, refresh } = useServerData('/api/alerts')
const { data: watches, refresh: refreshWatches } = useServerData('/api/watches')
const { data: sent } = useServerData('/api/messages', () => (tab.value === 'sent' ? {} : undefined))
const { data: kinds } = useServerData('/api/alert-kinds')
const { whyNotWork } = useMay()
const session = useSession()
const administrator = computed(() => session.person?.role === 'administrator')

const noting = ref(0)
const note = ref('')
const { attempt, busy, problem: failed } = useAttempt()

function ask(alert: AlertView) {
  noting.value = noting.value === alert.id ? 0 : alert.id
  note.value = ''
}

const acknowledge = (alert: AlertView) =>
  attempt(async () => {
    await answerOf(
      api.POST('/api/alerts/{id}/acknowledgement', {
        params: { path: { id: alert.id } },
        body: { note: note.value },
      }),
    )
    noting.value = 0
    await refresh()
  })

const editing = ref<WatchView | 'new'>()
const remove = (watch: WatchView) =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/watches/{id}', { params: { path: { id: watch.id } } }))
    await refreshWatches()
  })

const HOW: Record<string, string> = { bell: 'on the bell of', mail: 'by mail to', webhook: 'to' }

function told(w: WatchView['watch']): string {
  const of = w.kinds?.length
    ? w.kinds.map((k) => kinds.value?.find((one) => one.kind === k)?.words ?? k).join(', ')
    : 'everything'
  const soon = w.afterMinutes ? `after ${w.afterMinutes} min` : 'at once'
  const again = w.repeatMinutes ? `, again every ${w.repeatMinutes} min until acknowledged` : ''
  const quiet = w.quietFrom ? `, not from ${w.quietFrom} to ${w.quietUntil} (${w.zone})` : ''
  return `${of}, ${soon}${again}${quiet}`
}
</script>

<template>
  <div class="page">
    <v-tabs v-model="tab" aria-label="Alerts">
      <v-tab value="open">Open {{ data?.open.length || '' }}</v-tab>
      <v-tab value="closed">Closed</v-tab>
      <v-tab value="watches">Watches</v-tab>
      <v-tab value="sent">Sent</v-tab>
    </v-tabs>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p v-if="failed" class="wrong" role="alert">{{ failed }}</p>

    <section v-if="tab === 'open'" aria-label="Open alerts">
      <p v-if="data && !data.open.length" class="lead">Nothing needs to be known now.</p>
      <p v-else-if="data" class="lead">
        {{ count(data.open.length, 'alert is', 'alerts are') }} open; {{ data.bell }} of them nobody
        has acknowledged. Each closes by itself when its cause is gone.
      </p>
      <table v-if="data?.open.length" class="plain">
        <thead>
          <tr>
            <th>Since</th>
            <th>What</th>
            <th>About</th>
            <th>Why</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="a in data.open" :key="a.id">
            <tr>
              <td class="nowrap" :title="utc(a.openedAt)">{{ relative(a.openedAt) }}</td>
              <td>
                <b :class="{ ringing: a.state === 'open' }">{{ a.words }}</b>
              </td>
              <td>
                <router-link :to="a.link">{{ a.name }}</router-link><br /><span
                  v-if="a.tier"
                  class="small quiet"
                  >tier {{ a.tier }}</span
                >
              </td>
              <td>
                {{ a.sentence }}
                <p v-if="a.acknowledgedBy" class="small quiet note">
                  {{ a.acknowledgedBy }}, {{ relative(a.acknowledgedAt!) }}: {{ a.note }}
                </p>
              </td>
              <td>
                <button
                  v-if="a.state === 'open'"
                  class="link nowrap"
                  :disabled="!!whyNotWork"
                  :title="whyNotWork"
                  :aria-expanded="noting === a.id"
                  @click="ask(a)"
                >
                  Acknowledge
                </button>
              </td>
            </tr>
            <tr v-if="noting === a.id">
              <td colspan="5">
                <form class="row" @submit.prevent="acknowledge(a)">
                  <v-text-field
                    v-model="note"
                    label="What is being done about it"
                    maxlength="1000"
                    autofocus
                  />
                  <v-btn type="submit" color="primary" :loading="busy" :disabled="!note.trim()"
                    >Acknowledge</v-btn
                  >
                </form>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <TakeAway v-if="data?.open.length" name="alerts-open" :rows="() => data?.open ?? []" />
    </section>

    <section v-else-if="tab === 'closed'" aria-label="Closed alerts">
      <p v-if="data && !data.closed.length" class="lead">None has closed yet.</p>
      <table v-if="data?.closed.length" class="plain">
        <thead>
          <tr>
            <th>Open from</th>
            <th>Closed</th>
            <th>What</th>
            <th>About</th>
            <th>Why it was open</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="a in data.closed" :key="a.id">
            <td class="mono nowrap"><Moment :at="a.openedAt" /></td>
            <td class="mono nowrap"><Moment :at="a.closedAt!" /></td>
            <td>{{ a.words }}</td>
            <td>
              <router-link :to="a.link">{{ a.name }}</router-link>
            </td>
            <td>
              {{ a.sentence }}
              <p v-if="a.acknowledgedBy" class="small quiet note">
                {{ a.acknowledgedBy }}: {{ a.note }}
              </p>
            </td>
          </tr>
        </tbody>
      </table>
      <TakeAway v-if="data?.closed.length" name="alerts-closed" :rows="() => data?.closed ?? []" />
    </section>

    <section v-else-if="tab === 'watches'" aria-label="Watches">
      <p class="lead">Who is told of what, and how.</p>
      <p v-if="!administrator" class="small quiet">An administrator adds and changes watches.</p>
      <v-btn v-else @click="editing = 'new'">Add a watch</v-btn>
      <table v-if="watches" class="plain">
        <tbody>
          <tr v-for="w in watches" :key="w.id" :class="{ off: !w.watch.active }">
            <td>
              <b>{{ w.watch.name }}</b>
              <span v-if="!w.watch.active" class="quiet"> (off)</span>
            </td>
            <td>{{ HOW[w.watch.how] }} {{ w.watch.recipient }}</td>
            <td>{{ told(w.watch) }}</td>
            <td class="nowrap">
              <span v-if="administrator" class="links">
                <button class="link" @click="editing = w">Change</button>
                <button class="link" :disabled="busy" @click="remove(w)">Remove</button>
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      <TakeAway v-if="watches" name="watches" :rows="() => watches ?? []" />
      <WatchForm
        v-if="editing"
        :start="editing === 'new' ? undefined : editing"
        :kinds="kinds ?? []"
        @close="editing = undefined"
        @saved="refreshWatches"
      />
    </section>

    <section v-else aria-label="Sent">
      <p v-if="sent && !sent.length" class="lead">
        Nothing was sent yet. A watch by mail or webhook sends.
      </p>
      <table v-if="sent?.length" class="plain">
        <thead>
          <tr>
            <th>Made</th>
            <th>To</th>
            <th>Subject</th>
            <th>What became of it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in sent" :key="m.id">
            <td class="nowrap" :title="utc(m.madeAt)">{{ relative(m.madeAt) }}</td>
            <td>{{ m.recipient }}</td>
            <td>
              <details>
                <summary>{{ m.subject }}</summary>
                <pre class="small">{{ m.body }}</pre>
              </details>
            </td>
            <td :class="{ wrong: m.state === 'failed' }">
              {{ m.state }}
              <template v-if="m.state === 'waiting' && m.tries">
                after {{ count(m.tries, 'try', 'tries') }}, next <Moment :at="m.nextAt!"
              /></template>
              <p v-if="m.problem" class="small quiet note">{{ m.problem }}</p>
            </td>
          </tr>
        </tbody>
      </table>
      <TakeAway v-if="sent?.length" name="messages" :rows="() => sent ?? []" />
    </section>
  </div>
</template>

<style scoped>
.lead {
  margin: 8px 0;
}
.note {
  margin: 2px 0 0;
}
.ringing,
.wrong {
  color: var(--disproven);
}
.links {
  display: flex;
  gap: 12px;
}
.off {
  color: var(--quiet);
}
pre {
  white-space: pre-wrap;
  font-family: var(--mono);
}
form .v-text-field {
  flex: 1;
}
</style>
