<script setup lang="ts">
import { answerOf, api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import { flat } from './flat'
import { useAsAt } from './useAsAt'

/** A list as it is seen, with its filters and as at when, to be taken away as CSV or JSON. */
const props = defineProps<{
  /** What the file is called. */
  name: string
  rows: () => readonly object[] | Promise<readonly object[]>
}>()
const { asAt } = useAsAt()
const { attempt, busy, problem } = useAttempt()

function save(content: BlobPart, type: string, ending: string) {
  const at = asAt.value ? `-as-at-${asAt.value.slice(0, 16).replace(/[-:]/g, '')}` : ''
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([content], { type }))
  link.download = `${props.name}${at}.${ending}`
  link.click()
  window.setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

const csv = () =>
  attempt(async () => {
    const table = flat(await props.rows())
    const body = table.columns.length ? table : { columns: ['nothing'], rows: [] }
    const text = await answerOf(api.POST('/api/table', { body: body as never, parseAs: 'text' }))
    save(text as unknown as string, 'text/csv;charset=utf-8', 'csv')
  })

const json = () =>
  attempt(async () => save(JSON.stringify(await props.rows(), null, 1), 'application/json', 'json'))
</script>

<template>
  <span class="small quiet nowrap take">
    <template v-if="problem"
      ><span class="wrong" role="alert">{{ problem }}</span></template
    >
    <button
      class="link"
      type="button"
      :disabled="busy"
      :title="`${name} as seen, as CSV`"
      @click="csv"
    >
      CSV
    </button>
    <button
      class="link"
      type="button"
      :disabled="busy"
      :title="`${name} as seen, as JSON`"
      @click="json"
    >
      JSON
    </button>
  </span>
</template>

<style scoped>
.take {
  display: inline-flex;
  gap: 4px;
}
.take button {
  min-width: 36px;
  min-height: 24px;
}
.wrong {
  color: var(--disproven);
  white-space: normal;
}
</style>
