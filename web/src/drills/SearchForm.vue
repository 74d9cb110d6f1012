<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { Method } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'

/** Begins a search for the newest point of a resource that passes. */
const props = defineProps<{ resource: string; name: string; method?: Method }>()
const emit = defineEmits<{ close: []; begun: [] }>()

const { attempt, busy, problem } = useAttempt()
const reason = ref('')

async function begin() {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/point-searches', {
        body: {
          resource: props.resource,
          method: props.method,
          reason: reason.value,
        },
      }),
    )
    emit('begun')
  })
}
</script>

<template>
  <FormDialog
    :title="`Find the last good point of ${name}`"
    action="Begin the search"
    :ready="!!reason.trim()"
    :busy="busy"
    :problem="problem"
    hint="Say why it is looked for"
    @close="emit('close')"
    @submit="begin"
  >
    <p>
      The newest point is drilled, then older ones, until one passes. Where what was backed up is
      bad itself, damage stays once it came: points are halved then. Where single copies are bad,
      every point is tried in turn.
    </p>
    <v-text-field
      v-model="reason"
      label="Reason (stands in the evidence)"
      maxlength="300"
      autofocus
    />
  </FormDialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
