<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'

/** The address at which any calendar reads what is to come; told once, and ended at will. */
const emit = defineEmits<{ close: [] }>()
const { data, refresh } = useServerData('/api/own-calendar')
const { attempt, busy, problem } = useAttempt()
const path = ref('')
const address = computed(() => (path.value ? `${window.location.origin}${path.value}` : ''))

const make = () =>
  attempt(async () => {
    const made = await answerOf(api.POST('/api/own-calendar'))
    path.value = made.path ?? ''
    await refresh()
  })
const end = () =>
  attempt(async () => {
    await answerOf(api.DELETE('/api/own-calendar'))
    path.value = ''
    await refresh()
  })
</script>

<template>
  <v-dialog :model-value="true" @update:model-value="emit('close')">
    <v-card title="Calendar address">
      <v-card-text>
        <p>
          Programmes, drills of the coming nights, proofs that lapse and exceptions that end, for
          any calendar that subscribes to an address. Whoever has the address reads it without
          signing in.
        </p>
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <template v-if="address">
          <p><b>It is shown only now:</b></p>
          <p class="mono address">{{ address }}</p>
        </template>
        <p v-else-if="data?.madeAt">
          You have one since <Moment :at="data.madeAt" />. What it is was shown when it was made.
        </p>
        <p v-else>You have none.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn v-if="data?.madeAt" :loading="busy" @click="end">End the address</v-btn>
        <v-btn :loading="busy" @click="make">{{
          data?.madeAt ? 'Make another in its place' : 'Make an address'
        }}</v-btn>
        <v-btn color="primary" variant="flat" @click="emit('close')">Done</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.address {
  overflow-wrap: anywhere;
  user-select: all;
}
.wrong {
  color: var(--disproven);
}
</style>
