<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { StoreRead } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { bytes, count, duration } from '@/wording/format'
import FormDialog from '@/frame/FormDialog.vue'

/** Plans the reading of everything on a store. */
const props = defineProps<{ store: StoreRead }>()
const emit = defineEmits<{ close: []; begun: [] }>()

const { attempt, busy, problem } = useAttempt()
const reason = ref('')
const rate = ref(0)

const RATES = [
  { title: 'as fast as it can', value: 0 },
  { title: '200 MB a second', value: 200_000_000 },
  { title: '50 MB a second', value: 50_000_000 },
  { title: '10 MB a second', value: 10_000_000 },
  { title: '1 MB a second', value: 1_000_000 },
  { title: '100 kB a second', value: 100_000 },
]

const estimate = computed(() => {
  const by = rate.value || props.store.throughputBytes
  return by ? duration((props.store.bytes / by) * 1000) : undefined
})

async function begin() {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/sweeps', {
        body: {
          store: props.store.store,
          reason: reason.value,
          bytesPerSecond: rate.value || undefined,
        },
      }),
    )
    emit('begun')
  })
}
</script>

<template>
  <FormDialog
    :title="`Read back ${store.name}`"
    action="Begin the sweep"
    :ready="!!reason.trim()"
    :busy="busy"
    :problem="problem"
    hint="Say why it is read"
    @close="emit('close')"
    @submit="begin"
  >
    <p>
      Every byte of {{ count(store.artifacts, 'artifact', 'artifacts') }} ({{ bytes(store.bytes) }})
      is read and compared with its checksum; nothing is written. What was read least recently comes
      first.
      <template v-if="estimate">That takes about {{ estimate }}.</template>
    </p>
    <div class="pair">
      <v-select v-model="rate" :items="RATES" label="Read at most" />
      <v-text-field
        v-model="reason"
        label="Reason (stands in the evidence)"
        maxlength="300"
        autofocus
      />
    </div>
  </FormDialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
