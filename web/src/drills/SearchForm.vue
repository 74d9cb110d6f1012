<script setup lang="ts">
import { ref } from 'vue'
import { call, Problem, type SearchView } from '@/api/client'
import FormDialog from '@/frame/FormDialog.vue'

/** Begins a search for the newest point of a resource that passes. */
const props = defineProps<{ resource: string; name: string; method?: string }>()
const emit = defineEmits<{ close: []; begun: [] }>()

const reason = ref('')
const busy = ref(false)
const problem = ref('')

async function begin() {
  busy.value = true
  problem.value = ''
  try {
    await call<SearchView>('POST', 'point-searches', {
      resource: props.resource,
      method: props.method,
      reason: reason.value,
    })
    emit('begun')
  } catch (e) {
    problem.value = e instanceof Problem ? e.message : String(e)
  } finally {
    busy.value = false
  }
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
