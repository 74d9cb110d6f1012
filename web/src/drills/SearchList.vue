<script setup lang="ts">
import { computed, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { RunView, SearchView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { methodName, relative, time } from '@/wording/format'

/** Searches for the last good point: what each has tried, and what it found. */
const props = defineProps<{ runs: RunView[]; mayWork: boolean; ended?: boolean }>()

const { attempt, problem } = useAttempt()
const { data, refresh } = useServerData('/api/point-searches')
const shown = computed(() => (data.value ?? []).filter((s) => !!s.endedAt === !!props.ended))

// A drill that ended may have moved a search on.
watch(
  () => props.runs.map((r) => r.id + String(r.ended)).join(),
  () => void refresh(),
)

/** What came of the nth point that was tried; only the last can be under way. */
function outcome(search: SearchView, n: number) {
  const passed = search.tried[n]?.passed
  if (passed === true) return { sign: '✓', look: 'good', words: 'passed' }
  if (passed === false) return { sign: '✕', look: 'bad', words: 'failed' }
  return !search.endedAt && n === search.tried.length - 1
    ? { sign: '▸', look: '', words: 'is being tried' }
    : { sign: '–', look: '', words: 'was cut off' }
}

async function cancel(id: number) {
  await attempt(async () => {
    await answerOf(api.DELETE('/api/point-searches/{id}', { params: { path: { id: id } } }))
    await refresh()
  })
}
</script>

<template>
  <section v-if="shown.length" aria-label="Searches for the last good point">
    <h2>Searches for the last good point</h2>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <article v-for="s in shown.slice(0, 20)" :key="s.id" class="block">
      <div class="row-between">
        <b
          ><span class="mono">{{ s.resourceName }}</span> by {{ methodName(s.method) }}</b
        >
        <v-btn v-if="mayWork && !s.endedAt" @click="cancel(s.id)">Cancel this search</v-btn>
      </div>
      <p class="small quiet">
        asked by {{ s.requestedBy }}: {{ s.reason }} · {{ relative(s.startedAt) }}
      </p>
      <p v-if="s.sentence">{{ s.sentence.charAt(0).toUpperCase() + s.sentence.slice(1) }}.</p>
      <p class="tried small">
        <span v-for="(t, i) in s.tried" :key="t.run" class="mono one">
          <b :class="outcome(s, i).look">{{ outcome(s, i).sign }}</b>
          {{ t.dataTime ? time(t.dataTime) : t.point
          }}<span class="visually-hidden"> {{ outcome(s, i).words }}</span>
        </span>
      </p>
    </article>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0;
}
.tried {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
.good {
  color: var(--proven);
}
.bad {
  color: var(--disproven);
}
section {
  margin-bottom: 14px;
}
</style>
