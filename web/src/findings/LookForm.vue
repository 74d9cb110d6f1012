<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { FindingRow } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import { count } from '@/wording/format'

/** Marks findings as looked at, with what there is to say. */
const props = defineProps<{ findings: FindingRow[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()
const note = ref('')
const { attempt, busy, problem } = useAttempt()

async function look() {
  await attempt(async () => {
    await answerOf(
      api.POST('/api/findings/looks', {
        body: {
          findings: props.findings.map((f) => f.key),
          note: note.value,
        },
      }),
    )
    emit('done', `${count(props.findings.length, 'finding', 'findings')} looked at.`)
  })
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
