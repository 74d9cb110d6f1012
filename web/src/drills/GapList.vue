<script setup lang="ts">
import { computed } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { ForecastGap } from '@/api/types'
import { count, relative, time } from '@/wording/format'

/** Proofs that lapse or are missing: those that nothing renews first. Those with one reason stand together. */
const props = defineProps<{ gaps: ForecastGap[]; now: number; inAll: number }>()

interface Group {
  key: string
  sentence: string
  never: boolean
  gaps: ForecastGap[]
}

const groups = computed(() => {
  const found = new Map<string, Group>()
  for (const gap of props.gaps) {
    const never = !gap.until
    const key = `${never} ${gap.why} ${gap.sentence}`
    const group = found.get(key) ?? { key, sentence: gap.sentence, never, gaps: [] }
    group.gaps.push(gap)
    found.set(key, group)
  }
  return [...found.values()].sort(
    (a, b) => Number(b.never) - Number(a.never) || b.gaps.length - a.gaps.length,
  )
})

function when(gap: ForecastGap): string {
  return gap.lapsing
    ? `lapses ${time(gap.from)} (${relative(gap.from, props.now)})`
    : 'is missing now'
}
</script>

<template>
  <p v-if="!gaps.length" class="quiet small">No proof lapses in these nights.</p>
  <details v-for="g in groups" :key="g.key" class="gap">
    <summary>
      <b :class="{ wrong: g.never }">{{ g.never ? 'Nothing renews' : 'Missing for a time' }}</b>
      {{ count(g.gaps.length, 'proof', 'proofs') }}: {{ g.sentence }}
    </summary>
    <ul>
      <li v-for="gap in g.gaps" :key="gap.resource + gap.from" class="small">
        {{ gap.name }} {{ when(gap)
        }}<template v-if="gap.until">, proven again <Moment :at="gap.until" /></template>
      </li>
    </ul>
  </details>
  <p v-if="inAll > gaps.length" class="small quiet">
    The first {{ gaps.length }} of {{ inAll }} are shown.
  </p>
</template>

<style scoped>
.gap {
  margin: 4px 0;
}
ul {
  margin: 4px 0 8px;
  padding-left: 22px;
}
.wrong {
  color: var(--disproven);
}
</style>
