<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { StoreView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import HostFields from './HostFields.vue'
import ObjectFields from './ObjectFields.vue'
import { draftOf, fieldsOf, filledIn, noSecret } from './fields'

/** Says how a store is reached that is no folder here, tries it, and keeps it. What opens it is never shown again. */
const props = defineProps<{ store: StoreView }>()
const emit = defineEmits<{ close: []; connected: [] }>()

const { attempt, busy, problem } = useAttempt()
const { attempt: tryOut, busy: trying, problem: trialProblem } = useAttempt()
const kept = !!props.store.connection
const KINDS = [
  { value: 'object-store', title: 'Object store (S3 API)' },
  { value: 'sftp', title: 'Host with SFTP' },
]
const RATES = [
  { title: 'as fast as it can', value: 0 },
  { title: '200 MB a second', value: 200_000_000 },
  { title: '50 MB a second', value: 50_000_000 },
  { title: '10 MB a second', value: 10_000_000 },
  { title: '1 MB a second', value: 1_000_000 },
]

const draft = ref(fieldsOf(props.store))
const secret = ref(noSecret())
const trial = ref<{ away?: string; places: string[] }>()
const ready = computed(() => filledIn(draft.value))
const body = computed(() => draftOf(draft.value, secret.value))
const params = computed(() => ({ query: { store: props.store.store } }))
watch([draft, secret], () => (trial.value = undefined), { deep: true })

const look = () =>
  tryOut(async () => {
    trial.value = await answerOf(
      api.POST('/api/connection-trials', { params: params.value, body: body.value }),
    )
  })

const keep = () =>
  attempt(async () => {
    await answerOf(api.PUT('/api/store-connections', { params: params.value, body: body.value }))
    emit('connected')
  })

const forget = () =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/store-connections', { params: params.value }))
    emit('connected')
  })
</script>

<template>
  <FormDialog
    :title="`How ${store.name} is reached`"
    action="Keep"
    :ready="ready"
    :busy="busy"
    :problem="problem"
    hint="Fill in where it is first"
    @close="emit('close')"
    @submit="keep"
  >
    <div class="pair">
      <v-select v-model="draft.kind" :items="KINDS" label="It is" />
      <v-select v-model="draft.bytesPerSecond" :items="RATES" label="Read at most" />
    </div>
    <ObjectFields
      v-if="draft.kind === 'object-store'"
      v-model:draft="draft"
      v-model:secret="secret"
      :kept="kept"
    />
    <HostFields v-else v-model:draft="draft" v-model:secret="secret" :kept="kept" />
    <template #below>
      <p class="small quiet">
        Give a key that may only read and list: nothing is ever written. What opens the store is
        sealed, is in no pack and no log, and can’t be looked at again.
      </p>
      <p class="acts">
        <v-btn :loading="trying" :disabled="!ready" @click="look">Try it</v-btn>
        <v-btn v-if="kept" :disabled="busy" @click="forget">Forget how it is reached</v-btn>
      </p>
      <p v-if="trialProblem" class="bad" role="alert">{{ trialProblem }}</p>
      <div v-if="trial" role="status" class="small">
        <p v-if="trial.away" class="bad">It can’t be read: {{ trial.away }}.</p>
        <p v-else-if="!trial.places.length">It is reached, and nothing lies there.</p>
        <template v-else>
          <p>It is reached. First there:</p>
          <ul class="mono">
            <li v-for="p in trial.places" :key="p">{{ p }}</li>
          </ul>
        </template>
      </div>
    </template>
  </FormDialog>
</template>

<style scoped>
.bad {
  color: var(--disproven);
}
p {
  margin: 6px 0;
}
.acts {
  display: flex;
  gap: 10px;
}
ul {
  margin: 2px 0;
  padding-left: 18px;
  overflow-wrap: anywhere;
}
</style>
