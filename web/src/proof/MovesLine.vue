<script setup lang="ts">
import Moment from '@/frame/Moment.vue'
import { now as clockNow } from '@/wording/clock'
import { computed, ref } from 'vue'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { count } from '@/wording/format'
import VerdictMark from './VerdictMark.vue'

/** Which verdicts moved since yesterday, or since the beginning of the period, and because of what. */
const { asAt, from, known, query } = useAsAt()
const DAY = 86_400_000
const STEP = 600_000
const begin = computed(() => {
  if (from.value) return from.value
  const end = asAt.value ? Date.parse(asAt.value) : Math.floor(clockNow() / STEP) * STEP
  return new Date(end - DAY).toISOString().replace('.000Z', 'Z')
})
const { data } = useServerData('/api/differences', () => ({
  params: {
    query: {
      from: begin.value,
      to: asAt.value,
      knownAt: asAt.value ? known.value : 'now',
    },
  },
}))
const shown = ref(false)
const worse = computed(() => data.value?.moves.filter((m) => m.worse).length ?? 0)
</script>

<template>
  <div v-if="data" class="moves small">
    Since <Moment :at="data.from" />:
    <template v-if="data.moves.length">
      <button class="link" :aria-expanded="shown" @click="shown = !shown">
        {{ count(data.moves.length, 'verdict', 'verdicts') }} moved</button
      ><template v-if="worse">, {{ worse }} for the worse</template>
    </template>
    <template v-else>no verdict moved</template>,
    {{ count(data.turned, 'outcome', 'outcomes') }} turned.
    <router-link :to="{ name: 'insights', query }">What a period amounts to</router-link>
    <slot />
    <ul v-if="shown">
      <li v-for="m in data.moves" :key="m.workload">
        <b>{{ m.name }}</b>
        <VerdictMark v-if="m.from" :verdict="m.from" /><span v-else class="quiet">not there</span> →
        <VerdictMark v-if="m.to" :verdict="m.to" /><span v-else class="quiet">gone</span>
        <span class="quiet"> {{ m.because }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.moves {
  margin-top: 2px;
}
ul {
  list-style: none;
  margin: 4px 0 4px;
  max-height: 150px;
  overflow: auto;
}
li {
  padding: 2px 0;
}
</style>
