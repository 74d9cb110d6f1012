<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { SandboxView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useSession } from '@/people/session'
import { bytes, count, duration, methodName, relative, time, words } from '@/wording/format'

/** What drills work with: the engines on this machine, and the sandboxes that are in use. */
const session = useSession()
const { attempt, problem: failure } = useAttempt()
const { data: engines, problem, refresh: refreshEngines } = useServerData('/api/engines')
const { data: space, refresh } = useServerData('/api/sandboxes')
const { data: outside, refresh: refreshOutside } = useServerData('/api/outside-hosts')
const looking = ref(false)
const hosts = ref<string>()
const administrates = computed(() => session.person?.role === 'administrator')

function allow() {
  return attempt(async () => {
    await answerOf(
      api.PUT('/api/outside-hosts', {
        body: {
          hosts: (hosts.value ?? '').split(/[\s,;]+/).filter((h) => h),
        },
      }),
    )
    hosts.value = undefined
    await refreshOutside()
  })
}

async function look() {
  looking.value = true
  await attempt(async () => {
    await answerOf(api.POST('/api/engines'))
    await refreshEngines()
  })
  looking.value = false
}

function state(s: SandboxView): string {
  if (s.inUse) return 'in use'
  if (s.cleanup === 'failed') return 'clean-up failed'
  if (s.holdUntil) return `held until ${time(s.holdUntil)}`
  return s.cleanup ? `clean-up ${words(s.cleanup)}` : 'left behind'
}

function cleanUp(run: string) {
  return attempt(async () => {
    await answerOf(api.DELETE('/api/sandboxes/{run}', { params: { path: { run: run } } }))
    await refresh()
  })
}
</script>

<template>
  <div class="page">
    <div class="row-between">
      <h1 class="lead">Engines and sandboxes</h1>
      <v-btn v-if="administrates" :loading="looking" @click="look">Look for engines again</v-btn>
    </div>
    <p v-if="failure || problem" class="bad" role="alert">{{ failure || problem }}</p>

    <h2>Engines</h2>
    <v-skeleton-loader v-if="!engines" type="paragraph" color="background" />
    <div v-else class="wide">
      <table class="plain">
        <tbody>
          <tr v-for="e in engines" :key="e.code">
            <td class="mono nowrap">{{ e.code }}</td>
            <td class="nowrap">{{ e.what }}</td>
            <td class="nowrap">
              <b :class="e.present ? 'good' : 'quiet'">{{ e.present ? '✓ here' : '– not here' }}</b>
            </td>
            <td>{{ e.sentence }}</td>
          </tr>
        </tbody>
      </table>
    </div>

    <h2>Where checks may go outside</h2>
    <p class="small quiet">
      An outside check tells one of these hosts what was restored, and waits for its answer. No
      other address is ever asked.
    </p>
    <template v-if="outside">
      <form v-if="hosts !== undefined" class="hosts" @submit.prevent="allow">
        <v-text-field
          v-model="hosts"
          label="Hosts, such as proof.example or proof.example:8443"
          autofocus
        />
        <v-btn type="submit" color="primary" variant="flat">Allow these</v-btn>
        <v-btn @click="hosts = undefined">Cancel</v-btn>
      </form>
      <p v-else>
        <span v-if="outside.hosts.length" class="mono">{{ outside.hosts.join(', ') }}</span>
        <span v-else>None: checks stay inside.</span>
        <v-btn v-if="administrates" class="ml-2" @click="hosts = outside.hosts.join(' ')"
          >Change</v-btn
        >
      </p>
    </template>

    <h2>Sandboxes</h2>
    <template v-if="space">
      <p class="small quiet">
        <span class="mono">{{ space.folder }}</span> · {{ bytes(space.freeBytes) }} free · at most
        {{ space.most }} at once, {{ space.limitFiles.toLocaleString('en') }} files and
        {{ duration(space.limitMs) }} each
      </p>
      <p v-if="space.refusal" class="bad" role="alert">{{ space.refusal }}</p>
      <p v-if="!space.sandboxes.length" class="quiet">
        No restored data is held. Choose “hold” for a drill to look at what it restored.
      </p>
      <div v-else class="wide">
        <table class="plain">
          <thead>
            <tr>
              <th>Resource</th>
              <th>Point</th>
              <th>By</th>
              <th class="n">Size</th>
              <th>Age</th>
              <th>State</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in space.sandboxes" :key="s.run">
              <td class="mono">{{ s.resourceName ?? 'not known' }}</td>
              <td class="mono">{{ s.point ?? s.run }}</td>
              <td>{{ s.method ? methodName(s.method) : '–' }}</td>
              <td class="n mono">{{ s.moved ? '–' : bytes(s.bytes) }}</td>
              <td class="nowrap">{{ s.since ? relative(s.since) : '–' }}</td>
              <td>
                {{ state(s) }}<span v-if="s.moved" class="bad breakable">: {{ s.moved }}</span>
              </td>
              <td>
                <v-btn
                  v-if="session.mayWork"
                  :disabled="s.inUse"
                  :title="s.inUse ? 'A drill works with it' : undefined"
                  @click="cleanUp(s.run)"
                  >Clean up now</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="space.sandboxes.length" class="small quiet">
        {{ count(space.sandboxes.length, 'sandbox', 'sandboxes') }}. Where space is short, what is
        held goes before its time, the oldest first.
      </p>
    </template>
  </div>
</template>

<style scoped>
.hosts {
  display: grid;
  grid-template-columns: minmax(200px, 520px) auto auto;
  gap: 8px;
  align-items: start;
}
.lead {
  font-weight: 400;
}
h2 {
  margin: 18px 0 6px;
}
.good {
  color: var(--proven);
}
.bad {
  color: var(--disproven);
}
</style>
