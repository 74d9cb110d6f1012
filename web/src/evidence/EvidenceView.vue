<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { Issued, PackOrder, PackPreview, PackTask, Verification } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import SelectorBuilder from '@/frame/SelectorBuilder.vue'
import { useAsAt } from '@/frame/useAsAt'
import ControlsPanel from './ControlsPanel.vue'
import DroppedPack from './DroppedPack.vue'
import LedgerPanel from './LedgerPanel.vue'
import PackChecks from './PackChecks.vue'
import ReportsPanel from '@/reports/ReportsPanel.vue'
import { finished } from './packTask'
import { bytes, count, relative, time } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'

const TABS = ['packs', 'reports', 'controls', 'ledger'] as const
const route = useRoute()
const router = useRouter()
const tab = computed({
  get: () => TABS.find((t) => t === route.query.tab) ?? 'packs',
  set: (t) => void router.replace({ query: { ...route.query, tab: t } }),
})

const { asAt, from, when } = useAsAt()
const { data: packs, problem, refresh } = useServerData('/api/packs')
const { refresh: refreshLedger } = useServerData('/api/ledger')

const title = ref('')
const scope = ref('')
const preview = ref<PackPreview>()
const previewing = useAttempt()
const { attempt, busy, problem: failed } = useAttempt()
const said = computed(() => failed.value || previewing.problem.value)
const verifying = ref(0)
const checked = ref<Record<number, Verification>>({})

function order(): PackOrder {
  return {
    title: title.value || undefined,
    scope: scope.value || undefined,
    from: from.value || undefined,
    ...when.value,
  }
}

/** The report that the pack would hold, to be read before it is issued. */
const reading = computed(() => {
  const query = new URLSearchParams(
    Object.entries(order()).filter((e): e is [string, string] => !!e[1]),
  )
  return `/api/packs/preview/report?${query}`
})
const working = ref<PackTask>()
const stopping = ref(false)

async function stop() {
  const id = working.value?.id
  stopping.value = true
  if (id) await api.DELETE('/api/pack-tasks/{id}', { params: { path: { id } } })
}

/** As at when, and by what was known when. */
const shown = computed(() => {
  const p = preview.value
  if (!p || !asAt.value) return 'As at now'
  const known =
    p.knownAt === p.asAt ? 'by what was known then' : `in hindsight of ${time(p.knownAt)}`
  return `As at ${time(p.asAt)}, ${known}`
})

const sentence = computed(() => {
  const p = preview.value
  if (!p) return ''
  const others = Object.entries(p.counts)
    .filter(([v]) => v !== 'proven')
    .map(([v, n]) => `${n} ${v}`)
    .join(', ')
  return (
    `${p.proven} of ${count(p.workloads, 'workload', 'workloads')} proven${others ? `; ${others}` : ''}. ` +
    `It will hold ${count(p.resources, 'resource', 'resources')}, ` +
    `${count(p.points, 'recovery point', 'recovery points')} and ${count(p.drills, 'drill', 'drills')}.`
  )
})

watch(
  [scope, when],
  () =>
    previewing.latest(
      () => answerOf(api.POST('/api/packs/preview', { body: order() })),
      (answer) => (preview.value = answer),
    ),
  { immediate: true },
)

const make = () =>
  attempt(async () => {
    try {
      stopping.value = false
      const begun = await answerOf(api.POST('/api/packs', { body: order() }))
      await finished(begun, (task) => (working.value = task))
    } finally {
      working.value = undefined
      // The ledger was checked before, whatever came of it.
      await Promise.all([refresh(), refreshLedger()])
    }
  })

async function verify(pack: Issued) {
  verifying.value = pack.id
  await attempt(async () => {
    const begun = api.POST('/api/packs/{id}/verification', { params: { path: { id: pack.id } } })
    const task = await finished(await answerOf(begun))
    if (task.verification) checked.value = { ...checked.value, [pack.id]: task.verification }
  })
  verifying.value = 0
}
</script>

<template>
  <div class="page">
    <v-tabs v-model="tab" aria-label="Evidence">
      <v-tab value="packs">Packs</v-tab>
      <v-tab value="reports">Reports</v-tab>
      <v-tab value="controls">By control</v-tab>
      <v-tab value="ledger">Ledger</v-tab>
    </v-tabs>
    <ControlsPanel v-if="tab === 'controls'" />
    <ReportsPanel v-else-if="tab === 'reports'" />
    <LedgerPanel v-else-if="tab === 'ledger'" />
    <template v-else>
      <p class="lead">Hand over what an outsider can check without trusting us.</p>
      <section class="make" aria-label="Make a pack">
        <form @submit.prevent="make">
          <v-text-field
            v-model="title"
            label="Title"
            placeholder="Recoverability, November 2026"
            maxlength="120"
          />
          <SelectorBuilder v-model="scope" />
          <v-btn
            type="submit"
            color="primary"
            variant="flat"
            :loading="busy"
            :disabled="!preview?.resources"
            >Make the pack</v-btn
          >
        </form>
        <p v-if="preview">
          <b>{{ shown }}, {{ preview.scope }}:</b> {{ sentence }}
          <template v-if="!preview.resources"> Nothing matches this scope; widen it.</template>
        </p>
        <p v-if="busy" class="small" role="status">
          {{ stopping ? 'Stopping after this step' : 'Making the pack' }}:
          {{ working?.step ?? 'evaluating' }} …
          <button v-if="working && !stopping" class="link" type="button" @click="stop">Stop</button>
        </p>
        <p v-else-if="preview?.resources" class="small">
          <a :href="reading" target="_blank" rel="noopener">Read its report first</a>, with the
          words it will have.
        </p>
        <p v-if="said" class="wrong" role="alert">{{ said }}</p>
        <p class="small quiet">
          A BagIt zip (RFC 8493): the report as PDF/A and HTML, every outcome, workload, drill,
          copy, job, exception and public control as CSV, OSCAL assessment results, all facts, a log
          of each drill with the pictures of machines, what was drawn at random, the proofs of the
          ledger, and SHA-256 manifests.
          <span class="mono">./hard-proof verify PACK.zip</span> checks it anywhere and computes the
          verdicts again from its facts.
        </p>
      </section>

      <section class="block">
        <h2>Issued</h2>
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <p v-else-if="packs && !packs.length" class="quiet">
          No pack has been issued yet. Make the first one above.
        </p>
        <table v-if="packs?.length" class="plain">
          <thead>
            <tr>
              <th>Pack</th>
              <th>Scope</th>
              <th>As at</th>
              <th>Made</th>
              <th class="n">Proven</th>
              <th class="n">Size</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="p in packs" :key="p.id">
              <tr>
                <td>
                  <b>{{ p.title }}</b><br /><span class="mono quiet small">{{ p.name }}</span>
                </td>
                <td>{{ p.scope }}</td>
                <td class="mono nowrap">
                  <Moment :at="p.asAt" /><template v-if="p.knownAt !== p.asAt"
                    ><br /><span class="quiet small"
                      >in hindsight of <Moment :at="p.knownAt" /></span
                  ></template>
                </td>
                <td>
                  {{ relative(p.madeAt) }}<br /><span class="quiet small">{{ p.madeBy }}</span>
                </td>
                <td class="n">{{ p.proven }} / {{ p.workloads }}</td>
                <td class="n">{{ bytes(p.bytes) }}</td>
                <td class="nowrap">
                  <span class="links">
                    <a :href="`/api/packs/${p.id}/report`" target="_blank" rel="noopener">Read</a>
                    <a :href="`/api/packs/${p.id}/report.pdf`" target="_blank" rel="noopener"
                      >PDF</a
                    >
                    <a :href="`/api/packs/${p.id}/file`" download>Download</a>
                    <button class="link" :disabled="verifying === p.id" @click="verify(p)">
                      {{ verifying === p.id ? 'Verifying …' : 'Verify' }}
                    </button>
                  </span>
                </td>
              </tr>
              <tr v-if="checked[p.id]">
                <td colspan="7" class="checks">
                  <PackChecks :checks="checked[p.id]!.checks" />
                  <p class="small quiet mono">SHA-256 of the zip: {{ p.sha256 }}</p>
                </td>
              </tr>
            </template>
          </tbody>
        </table>
        <TakeAway v-if="packs?.length" name="packs" :rows="() => packs ?? []" />
        <DroppedPack />
      </section>
    </template>
  </div>
</template>

<style scoped>
.lead {
  margin: 0 0 10px;
}
form {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) minmax(340px, 1.4fr) auto;
  gap: 12px;
  align-items: center;
}
.make {
  border-top: 1px solid var(--rule-strong);
  padding: 14px 0;
}
p {
  margin: 6px 0 0;
}
.links {
  display: flex;
  gap: 12px;
}
.checks p {
  margin: 1px 0;
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 900px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
