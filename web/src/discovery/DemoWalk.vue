<script setup lang="ts">
import { computed, onScopeDispose } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useSession } from '@/people/session'

/** A demo that runs beside this installation. */
const session = useSession()
const { data, refresh } = useServerData('/api/demo-walk')
const { attempt, busy, problem } = useAttempt()

const may = computed(() => session.person?.role === 'administrator')
const starting = computed(() => data.value?.state === 'starting')
/** Another name of this machine: a browser keeps one session for all ports of one name. */
const address = computed(
  () =>
    `http://${window.location.hostname === 'localhost' ? '127.0.0.1' : 'localhost'}:${data.value?.port}/`,
)

const begin = () =>
  attempt(async () => {
    await answerOf(api.POST('/api/demo-walk'))
    await refresh()
  })

const end = () =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/demo-walk'))
    await refresh()
  })

const timer = setInterval(() => {
  if (starting.value) void refresh()
}, 1000)
onScopeDispose(() => clearInterval(timer))
</script>

<template>
  <div v-if="data" class="row">
    <template v-if="data.state === 'running'">
      <a class="go" :href="address" target="_blank" rel="noopener">Open the demo</a>
      <span class="small quiet"
        >Sign in with a click on any name. It runs until you end it, or this server ends.</span
      >
      <v-btn v-if="may" :loading="busy" @click="end">End the demo</v-btn>
    </template>
    <template v-else-if="starting">
      <v-progress-circular indeterminate size="18" width="2" aria-label="The demo is being made" />
      <span class="small" role="status"
        >{{ data.sentence }} <span class="quiet">(about a minute in all)</span></span
      >
      <v-btn v-if="may" @click="end">Stop</v-btn>
    </template>
    <template v-else>
      <v-btn
        :disabled="!may || !data.possible"
        :loading="busy"
        :title="may ? undefined : 'Administrators start a demo.'"
        @click="begin"
        >Start the demo</v-btn
      >
      <span v-if="data.sentence" class="small" :class="{ bad: data.state === 'failed' }">{{
        data.possible ? data.sentence : `Not from here: ${data.sentence}`
      }}</span>
    </template>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
}
.go {
  font-weight: 600;
}
.bad {
  color: var(--disproven);
}
</style>
