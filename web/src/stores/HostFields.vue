<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import type { ConnectionFields, SecretFields } from './fields'

/** Which host with SFTP, by which key it is known, and how it is signed in to. */
defineProps<{ kept: boolean }>()
const draft = defineModel<ConnectionFields>('draft', { required: true })
const secret = defineModel<SecretFields>('secret', { required: true })
const { attempt, busy, problem } = useAttempt()
const fingerprint = ref('')

const askKey = () =>
  attempt(async () => {
    const key = await answerOf(
      api.POST('/api/host-keys', {
        body: { host: draft.value.host, port: Number(draft.value.port) || 22 },
      }),
    )
    draft.value.hostKeys = key.line
    fingerprint.value = key.fingerprint
  })
</script>

<template>
  <div class="pair">
    <v-text-field v-model="draft.host" label="Host" placeholder="backups.example" class="mono" />
    <v-text-field v-model="draft.port" label="Port" type="number" class="mono" />
  </div>
  <div class="pair">
    <v-text-field v-model="draft.user" label="Sign in as" class="mono" autocomplete="off" />
    <v-text-field
      v-model="draft.folder"
      label="Folder from the root"
      placeholder="/srv/backups"
      class="mono"
    />
  </div>
  <v-textarea
    v-model="draft.hostKeys"
    label="Its key (a line of known_hosts)"
    rows="2"
    class="mono"
  />
  <p class="small">
    <v-btn :loading="busy" :disabled="!draft.host.trim()" @click="askKey"
      >Ask the host for its key</v-btn
    >
    <template v-if="fingerprint">
      It shows <span class="mono">{{ fingerprint }}</span>: compare that with what its administrator
      says before you keep it.</template
    >
    <span v-if="problem" class="bad" role="alert">{{ problem }}</span>
  </p>
  <v-text-field
    v-model="secret.password"
    type="password"
    :label="kept ? 'Password (stays where left empty)' : 'Password, or a private key below'"
    autocomplete="new-password"
  />
  <v-textarea v-model="secret.privateKey" label="Private key" rows="2" class="mono" />
  <v-text-field
    v-if="secret.privateKey"
    v-model="secret.passphrase"
    type="password"
    label="Its passphrase"
    autocomplete="new-password"
  />
</template>

<style scoped>
.bad {
  color: var(--disproven);
}
p {
  margin: 0;
}
</style>
