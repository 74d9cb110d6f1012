<script setup lang="ts">
import { onScopeDispose, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { ProgressView } from '@/api/types'
import { bytes } from '@/wording/format'

/** How far the import that is being read has come, and stopping it. */
defineProps<{ doing: string }>()

const ASK_EVERY_MS = 700
const progress = ref<ProgressView>()
const asking = window.setInterval(async () => {
  try {
    progress.value = (await answerOf(api.GET('/api/imports')))[0]
  } catch {
    // The import itself says what is wrong; this line only tells how far it is.
  }
}, ASK_EVERY_MS)
onScopeDispose(() => window.clearInterval(asking))

function cancel() {
  if (progress.value)
    void answerOf(api.DELETE('/api/imports/{id}', { params: { path: { id: progress.value.id } } }))
}
</script>

<template>
  <p class="small" role="status">
    {{ doing }} …
    <template v-if="progress">
      {{ progress.file }}: {{ progress.rows.toLocaleString('en') }} rows,
      {{ bytes(progress.bytes) }} of {{ bytes(progress.totalBytes) }}
      <button class="link" type="button" @click="cancel">cancel</button>
    </template>
  </p>
</template>
