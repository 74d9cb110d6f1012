<script setup lang="ts">
import { ref } from 'vue'
import type { JobSummary } from '@/api/types'
import { useServerData } from '@/api/useServerData'
import { relative } from '@/wording/format'

/** How the jobs of the last day and two weeks went, in one line; what failed again and again below. */
const props = defineProps<{ when: { asAt?: string; knownAt?: string } }>()
const { data } = useServerData('/api/job-summary', () => ({ params: { query: props.when } }))
const shown = ref(false)

/** What failed stands first: the server counts in that order. */
function line(counts: JobSummary['lastDay']): string {
  const said = counts.map((c) => {
    const outcomes = Object.entries(c.outcomes).map(([outcome, n]) => `${n} ${outcome}`)
    return `${c.type}: ${outcomes.join(', ')}`
  })
  return said.join('; ') || 'none told of'
}
</script>

<template>
  <div v-if="data && data.twoWeeks.length" class="jobs small">
    <span class="quiet">Jobs, 24 h:</span> {{ line(data.lastDay) }}
    <span class="quiet">· two weeks:</span> {{ line(data.twoWeeks) }}
    <button v-if="data.repeated.length" class="link" :aria-expanded="shown" @click="shown = !shown">
      {{ shown ? 'fold' : `${data.repeated.length} that failed again` }}
    </button>
    <ul v-if="shown">
      <li v-for="(f, i) in data.repeated" :key="i">
        {{ data.sentences[i] }} <span class="quiet">(last {{ relative(f.last) }})</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.jobs {
  margin-top: 2px;
}
ul {
  margin: 4px 0 0 18px;
}
</style>
