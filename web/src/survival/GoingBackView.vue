<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import type { Returning, ReturnStep } from '@/api/types'
import FormDialog from '@/frame/FormDialog.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { relative } from '@/wording/format'

/** What runs elsewhere than before, and what is needed until it is home as it was. */
const { when, query } = useAsAt()
const { whyNotWork } = useMay()
const { data, problem, refresh } = useServerData('/api/moves', () => ({
  params: { query: when.value },
}))
useEvents({ facts: () => void refresh() })

const STEPS: Record<ReturnStep['step'], string> = {
  'protected-away': 'Protected there',
  'copied-home': 'Copied home',
  back: 'Home',
  'chain-begun': 'New chain',
  'copies-as-before': 'Copies as before',
}
const STATES: Record<ReturnStep['state'], { glyph: string; word: string }> = {
  done: { glyph: '✓', word: 'done' },
  open: { glyph: '→', word: 'next' },
  waits: { glyph: '·', word: 'later' },
  'not-known': { glyph: '?', word: 'not known' },
  missed: { glyph: '✕', word: 'missed' },
}
/** What has to be done or known now: the rest is as it should be, or waits for it. */
const telling = (r: Returning) =>
  r.steps.filter((s) => s.state === 'open' || s.state === 'missed' || s.state === 'not-known')
const carried = (r: Returning) =>
  r.steps.find((s) => s.step === 'copied-home' && s.state === 'done')

const settling = ref<Returning>()
const reason = ref('')
const { attempt, busy, problem: refused } = useAttempt()
const settle = () =>
  attempt(async () => {
    await answerOf(
      api.POST('/api/moves/settled', {
        body: { resource: settling.value?.resource ?? '', reason: reason.value },
      }),
    )
    settling.value = undefined
    reason.value = ''
    await refresh()
  })
</script>

<template>
  <div class="page">
    <p class="small">
      <router-link :to="{ name: 'survival', query }">Survival</router-link>
    </p>
    <h1>Going back</h1>
    <p class="small quiet lead-in">
      After a move, real or tried: what facts put at another site than before, in the order in which
      it goes back, and what is still needed until it is home as it was. Facts alone move it on.
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!data && !problem" type="paragraph, image" color="background" />
    <p v-else-if="data && !data.length" class="quiet">
      Nothing is known to run elsewhere than before: as far as resources.csv ever named a site for
      each, all are where they were first.
    </p>
    <section v-for="g in data ?? []" :key="g.workload ?? ''">
      <h2>
        <router-link
          v-if="g.workload"
          :to="{ name: 'board', query: { w: g.workload, ...query } }"
          >{{ g.name }}</router-link><template v-else>{{ g.name }}</template>
        <span v-if="g.tier" class="small quiet tier">{{ ' ' }}tier {{ g.tier }}</span>
      </h2>
      <p>{{ g.sentence[0]?.toUpperCase() }}{{ g.sentence.slice(1) }}.</p>
      <div class="wide">
        <table class="plain">
          <thead>
            <tr>
              <th>Resource</th>
              <th>Way</th>
              <th v-for="(title, step) in STEPS" :key="step">{{ title }}</th>
              <th><span class="visually-hidden">It stays</span></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="r in g.members" :key="r.resource">
              <tr class="first">
                <td class="mono">{{ r.name }}</td>
                <td class="small nowrap">
                  {{ r.home }} → {{ r.away }}<template v-if="r.back"> → {{ r.home }}</template>
                  <br />
                  <span class="quiet"
                    >{{ r.back ? 'back' : 'away since' }} {{ relative(r.back ?? r.left) }}</span
                  >
                </td>
                <td
                  v-for="s in r.steps"
                  :key="s.step"
                  class="nowrap"
                  :class="s.state"
                  :title="s.sentence"
                >
                  <span aria-hidden="true">{{ STATES[s.state].glyph }}</span>
                  {{ STATES[s.state].word }}
                </td>
                <td>
                  <button
                    type="button"
                    class="link small nowrap"
                    :disabled="!!whyNotWork"
                    :title="whyNotWork || 'It belongs where it is now'"
                    :aria-label="`It stays: ${r.name}`"
                    @click="settling = r"
                  >
                    it stays
                  </button>
                </td>
              </tr>
              <tr>
                <td></td>
                <td colspan="7" class="small said">
                  <p v-if="!r.back && carried(r)">
                    {{ STEPS['copied-home'] }}: {{ carried(r)?.sentence
                    }}<template v-if="r.estimatedFrom">; {{ r.estimatedFrom }}</template
                    >.
                  </p>
                  <p v-for="s in telling(r)" :key="s.step">
                    {{ STEPS[s.step] }}: {{ s.sentence }}.
                  </p>
                </td>
              </tr>
            </template>
          </tbody>
        </table>
      </div>
    </section>
    <FormDialog
      v-if="settling"
      :title="`${settling.name} stays`"
      action="It stays"
      :ready="!!reason.trim()"
      :busy="busy"
      :problem="refused"
      hint="Say why"
      @close="settling = undefined"
      @submit="settle"
    >
      <p v-if="settling.back">
        It is home as it should be: what is open here is not followed any more.
      </p>
      <p v-else>
        It belongs at {{ settling.away }}, as it is: it does not go back, and what is open here is
        not followed any more.
      </p>
      <v-textarea v-model="reason" label="Why" rows="2" maxlength="500" autofocus />
    </FormDialog>
  </div>
</template>

<style scoped>
.lead-in {
  max-width: 760px;
}
section {
  margin-top: 18px;
}
.tier {
  margin-left: 10px;
  font-weight: 400;
}
tr.first td {
  border-bottom: 0;
}
.said p {
  margin: 0 0 4px;
}
.done {
  color: var(--proven);
}
.open {
  font-weight: 600;
}
.waits,
.not-known {
  color: var(--quiet);
}
.missed,
.bad {
  color: var(--disproven);
}
</style>
