<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { FindingRow } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import FormDialog from '@/frame/FormDialog.vue'
import { count } from '@/wording/format'
import { downloadTable } from './downloadTable'

/** Hands findings to whoever can do something about them, by mail or as a table. */
const props = defineProps<{ findings: FindingRow[] }>()
const emit = defineEmits<{ close: []; done: [sentence: string] }>()

const to = ref('')
const note = ref('')
const keys = () => props.findings.map((f) => f.key)

const { attempt, busy, problem } = useAttempt()

const handOver = (work: () => Promise<string>) =>
  attempt(async () => {
    emit('done', await work())
  })

const mail = () =>
  handOver(async () => {
    const answer = await answerOf(
      api.POST('/api/findings/hand-overs', {
        body: {
          findings: keys(),
          to: to.value,
          note: note.value,
        },
      }),
    )
    return `Left as ${answer.file} in the mail folder, for ${to.value}.`
  })

const table = () =>
  handOver(async () => {
    await downloadTable(keys())
    return `${count(props.findings.length, 'finding', 'findings')} in findings.csv.`
  })
</script>

<template>
  <FormDialog
    :title="`Hand over ${count(findings.length, 'finding', 'findings')}`"
    action="Leave as mail"
    :ready="!!to.trim()"
    :busy="busy"
    :problem="problem"
    hint="Say to whom"
    @close="emit('close')"
    @submit="mail"
  >
    <v-text-field v-model="to" label="To" placeholder="owner@example.org" autofocus />
    <v-textarea v-model="note" label="What to say with it" rows="2" maxlength="2000" />
    <template #below>
      <p class="small quiet">
        A message with the table goes to the mail folder of the data folder, and the findings count
        as looked at. Or take the table with you:
        <button class="link" type="button" @click="table">findings.csv</button>
      </p>
    </template>
  </FormDialog>
</template>
