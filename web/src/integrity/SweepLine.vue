<script setup lang="ts">
import { computed } from 'vue'
import { answerOf, api } from '@/api/client'
import type { SweepChange, SweepView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { bytes, count, duration, relative } from '@/wording/format'

/** A sweep: how far it is, how long it will take, and what can be done about it. */
const props = defineProps<{ sweep: SweepView; mayWork: boolean }>()
const emit = defineEmits<{ changed: [] }>()

const { attempt, problem } = useAttempt()
const share = computed(() =>
  props.sweep.bytes ? Math.min(100, (100 * props.sweep.doneBytes) / props.sweep.bytes) : 0,
)
const open = computed(() => !props.sweep.endedAt)

const params = computed(() => ({ path: { id: props.sweep.id } }))

async function change(body: SweepChange) {
  await attempt(async () => {
    await answerOf(api.PATCH('/api/sweeps/{id}', { params: params.value, body }))
    emit('changed')
  })
}

async function cancel() {
  await attempt(async () => {
    await answerOf(api.DELETE('/api/sweeps/{id}', { params: params.value }))
    emit('changed')
  })
}
</script>

<template>
  <article class="block">
    <div class="row-between">
      <b>{{ sweep.storeName }}: {{ sweep.state }}</b>
      <span v-if="open && mayWork" class="row">
        <v-btn v-if="sweep.state === 'running'" @click="change({ state: 'paused' })">Pause</v-btn>
        <v-btn v-else @click="change({ state: 'running' })">Resume</v-btn>
        <v-btn
          v-if="sweep.bytesPerSecond"
          title="Read as fast as it can from now on"
          @click="change({ unlimited: true })"
          >Lift the limit</v-btn
        >
        <v-btn @click="cancel">Cancel this sweep</v-btn>
      </span>
    </div>
    <v-progress-linear
      v-if="open"
      :model-value="share"
      :aria-label="`Sweep of ${sweep.storeName}, progress`"
    />
    <p class="small mono quiet">
      {{ bytes(sweep.doneBytes) }} of {{ bytes(sweep.bytes) }}, {{ sweep.done }} of
      {{ count(sweep.items, 'artifact', 'artifacts')
      }}<template v-if="sweep.measuredBytesPerSecond"
        >, {{ bytes(sweep.measuredBytesPerSecond) }} a second</template
      ><template v-if="sweep.bytesPerSecond"> (at most {{ bytes(sweep.bytesPerSecond) }})</template
      ><template v-if="open && sweep.leftMs !== undefined && sweep.state === 'running'"
        >, about {{ duration(sweep.leftMs) }} to go</template
      >
    </p>
    <p v-if="sweep.failed" class="bad">
      {{ count(sweep.failed, 'artifact is', 'artifacts are') }} damaged or not there.
    </p>
    <p v-if="sweep.readingPoint" class="small">
      reading <span class="mono">{{ sweep.readingPoint }}</span>
    </p>
    <p v-if="sweep.sentence" class="small">{{ sweep.sentence }}</p>
    <p class="small quiet">
      asked by {{ sweep.requestedBy }}: {{ sweep.reason }} ·
      {{
        sweep.endedAt ? `ended ${relative(sweep.endedAt)}` : `planned ${relative(sweep.plannedAt)}`
      }}
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
  </article>
</template>

<style scoped>
p {
  margin: 3px 0;
}
.row {
  display: flex;
  gap: 8px;
}
.bad {
  color: var(--disproven);
}
</style>
