<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { LedgerEntry } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'
import { count, relative } from '@/wording/format'

/** The ledger: how long it is, what the last check came to, the head to keep, and what was recorded last. */
const session = useSession()
const { lookingBack } = useAsAt()
const { data: ledger, problem, refresh } = useServerData('/api/ledger')
const { attempt, busy, problem: failed } = useAttempt()

const checking = computed(() => ledger.value?.checking)
const timer = setInterval(() => {
  if (checking.value) void refresh()
}, 700)
onScopeDispose(() => clearInterval(timer))

const whole = computed(() => ledger.value?.checked?.found === 0)
const administrator = computed(() => session.person?.role === 'administrator' && !lookingBack.value)

const check = () =>
  attempt(async () => {
    await answerOf(api.POST('/api/ledger/check'))
    await refresh()
  })

const stop = () => attempt(async () => void (await answerOf(api.DELETE('/api/ledger/check'))))

const entries = ref<LedgerEntry[]>()
const more = ref(true)
const older = () =>
  attempt(async () => {
    const known = entries.value ?? []
    const before = known[known.length - 1]?.number
    const next = await answerOf(api.GET('/api/ledger/entries', { params: { query: { before } } }))
    entries.value = [...known, ...next]
    more.value = next.length > 0 && next[next.length - 1]?.number !== 0
  })

interface Body {
  at: string
  actor: string
  recorded?: string
  content: Record<string, unknown>
}
const shown = computed(() =>
  (entries.value ?? []).map((e) => ({ ...e, told: JSON.parse(e.body) as Body })),
)

/** What tells one entry of a kind from the next. */
function about(body: Body): string {
  const c = body.content
  const parts = [
    c.what,
    c.resource,
    c.method,
    c.checks,
    c.exception,
    c.name,
    c.title,
    c.subject,
    c.standard,
  ]
  return parts.filter((p) => typeof p === 'string' && p).join(' · ')
}

const signed = computed(() => ledger.value?.keys.filter((k) => k.event !== 'ended').length ?? 0)
const ending = ref('')
const endKey = () =>
  attempt(async () => {
    await answerOf(api.POST('/api/ledger/keys/end', { body: { reason: ending.value } }))
    ending.value = ''
    await refresh()
  })

const reason = ref('')
const nextKey = () =>
  attempt(async () => {
    await answerOf(
      api.POST('/api/ledger/keys', {
        body: { reason: ledger.value?.problem ? reason.value : undefined },
      }),
    )
    reason.value = ''
    await refresh()
  })
</script>

<template>
  <section class="block" aria-label="Ledger">
    <h2>Ledger</h2>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <template v-if="ledger">
      <p>
        <b>{{ count(ledger.size, 'entry', 'entries') }}</b>: every drill with its steps, clean-up,
        read-back, exception, standard, draw, pack and what people did, in the order in which it was
        recorded. Nothing of it can be rewritten without the root below becoming another.
      </p>
      <p v-if="checking" role="status">
        Checking: {{ checking.done }} of {{ checking.all }}
        <button class="link" @click="stop">Stop</button>
      </p>
      <p v-else-if="ledger.checked">
        <b :class="whole ? 'good' : 'wrong'">{{ whole ? '✓ whole' : '✕ it differs' }}</b>
        checked {{ relative(ledger.checked.at) }}:
        {{
          whole
            ? `all ${count(ledger.checked.size, 'entry', 'entries')} again, every head that was ever signed, and every fact against its entry.`
            : `${count(ledger.checked.found, 'difference', 'differences')}. Somebody wrote to the database beside the program: put back a copy of it from before. Until then no pack is issued; drills go on and are recorded.`
        }}
        <button class="link" :disabled="busy" @click="check">Check now</button>
      </p>
      <p v-else>
        Not checked yet. <button class="link" :disabled="busy" @click="check">Check now</button>
      </p>
      <ul v-if="ledger.checked?.found && !checking" class="small wrong">
        <li v-for="d in ledger.checked.differences" :key="d">{{ d }}</li>
      </ul>
      <p v-if="ledger.problem" class="wrong" role="alert">{{ ledger.problem }}</p>
      <p v-if="failed" class="wrong" role="alert">{{ failed }}</p>
      <dl v-if="ledger.head" class="head small">
        <dt>Head signed last</dt>
        <dd>
          {{ count(ledger.head.size, 'entry', 'entries') }}, <Moment :at="ledger.head.at" />, by the
          key
          <span class="mono">{{ ledger.head.key }}</span>
        </dd>
        <dt>Root</dt>
        <dd class="mono root">{{ ledger.head.root }}</dd>
        <dt>Keep it</dt>
        <dd>
          <a href="/api/ledger/head" download>Download the head</a>, and lay it where this server
          can't reach it.
          <span class="mono nowrap">./hard-proof verify PACK.zip --head FILE</span> shows of any
          later pack that nothing was rewritten since.
        </dd>
      </dl>
      <details class="small">
        <summary>{{ count(signed, 'key has', 'keys have') }} signed so far</summary>
        <p v-for="k in ledger.keys" :key="k.fingerprint + k.event">
          <span class="mono">{{ k.fingerprint }}</span> {{ k.event }} <Moment :at="k.at" />
          <template v-if="k.by">{{ ` by ${k.by}` }}</template>
        </p>
        <form v-if="administrator" class="key" @submit.prevent="nextKey">
          <v-text-field
            v-if="ledger.problem"
            v-model="reason"
            label="Why another key begins"
            maxlength="300"
            density="compact"
            hide-details
          />
          <v-btn
            type="submit"
            size="small"
            variant="outlined"
            :loading="busy"
            :disabled="!!ledger.problem && !reason.trim()"
            >{{
              ledger.problem ? 'Begin with a new key' : 'Let another key follow, signed by this one'
            }}</v-btn
          >
        </form>
        <form
          v-if="administrator && !ledger.problem"
          class="key"
          aria-label="End the key"
          @submit.prevent="endKey"
        >
          <v-text-field
            v-model="ending"
            label="Why nothing is to be signed any more"
            maxlength="300"
          />
          <v-btn
            type="submit"
            size="small"
            variant="outlined"
            :loading="busy"
            :disabled="!ending.trim()"
            >End this key for good</v-btn
          >
        </form>
        <p v-if="administrator && !ledger.problem" class="quiet">
          Its last head says that it ended; nothing is signed and no pack issued from then on.
          Nobody can undo it.
        </p>
      </details>
      <details class="small" @toggle="entries ?? older()">
        <summary>What was recorded last</summary>
        <table v-if="shown.length" class="plain">
          <thead>
            <tr>
              <th class="n">No.</th>
              <th>Happened</th>
              <th>Kind</th>
              <th>By</th>
              <th>What</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="e in shown" :key="e.number">
              <td class="n mono">{{ e.number }}</td>
              <td class="mono nowrap">
                <Moment :at="e.told.at" /><template v-if="e.told.recorded"
                  ><br /><span class="quiet">recorded later</span></template
                >
              </td>
              <td class="nowrap">{{ e.kind.replaceAll('-', ' ') }}</td>
              <td>{{ e.told.actor || '–' }}</td>
              <td>
                <details>
                  <summary>{{ about(e.told) || e.key }}</summary>
                  <p class="mono body">{{ e.body }}</p>
                  <p class="quiet">
                    leaf <span class="mono body">{{ e.leaf }}</span>
                  </p>
                </details>
              </td>
            </tr>
          </tbody>
        </table>
        <button v-if="entries && more" class="link" :disabled="busy" @click="older">
          Show older ones
        </button>
      </details>
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 6px 0 0;
}
ul {
  margin: 6px 0 0;
  padding-left: 18px;
}
.head {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 14px;
  margin: 8px 0;
}
.head dt {
  color: var(--quiet);
}
.head dd {
  margin: 0;
  min-width: 0;
}
.root,
.body {
  overflow-wrap: anywhere;
}
summary {
  cursor: pointer;
}
details {
  margin-top: 6px;
}
td details {
  margin: 0;
}
.key {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 8px;
  max-width: 560px;
}
.good {
  color: var(--proven);
}
.wrong {
  color: var(--disproven);
}
</style>
