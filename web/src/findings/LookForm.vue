<script setup lang="ts">
import { ref } from 'vue'
import { call, Problem, type FindingRow } from '@/api/client'
import FormDialog from '@/frame/FormDialog.vue'
import { count } from '@/wording/format'

/** Marks findings as looked at, with what there is to say. */
const props = defineProps<{ findings: FindingRow[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()
const note = ref('')
const problem = ref('')
const busy = ref(false)

async function look() {
  busy.value = true
  try {
    await call('POST', 'findings/looks', {
      findings: props.findings.map((f) => f.key),
      note: note.value,
    })
    emit('done', `${count(props.findings.length, 'finding', 'findings')} looked at.`)
  } catch (e) {
    problem.value = e instanceof Problem ? e.message : String(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <FormDialog
    :title="`${count(findings.length, 'finding was', 'findings were')} looked at`"
    action="Looked at"
    ready
    :busy="busy"
    :problem="problem"
    @close="emit('close')"
    @submit="look"
  >
    <v-text-field
      v-model="note"
      label="What there is to say (may stay empty)"
      maxlength="500"
      autofocus
    />
    <template #below>
      <p class="small quiet">It stays open. If it closes and comes back, it is new again.</p>
    </template>
  </FormDialog>
</template>
