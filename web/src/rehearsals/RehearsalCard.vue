<script setup lang="ts">
import { computed } from 'vue'
import type { RehearsalView } from '@/api/types'
import Moment from '@/frame/Moment.vue'
import { count, duration, relative, time, words } from '@/wording/format'
import TideBars from './TideBars.vue'
import { barsOf, stateWords } from './tideBars'

/** One rehearsal: planned beside measured, member by member. */
const props = defineProps<{ rehearsal: RehearsalView; now: number; mayWork: boolean }>()
defineEmits<{ cancel: [] }>()

const since = computed(() =>
  props.rehearsal.startedAt ? Math.max(0, props.now - Date.parse(props.rehearsal.startedAt)) : 0,
)
const bars = computed(() => barsOf(props.rehearsal, since.value))
const up = computed(() => props.rehearsal.members.filter((m) => m.state === 'up').length)

const state = computed(() => {
  const r = props.rehearsal
  if (r.outcome) return words(r.outcome)
  if (!r.startedAt) return 'waits until other drills leave it its turns'
  return up.value === r.members.length
    ? 'all are up, and stay up together'
    : `goes on for ${duration(since.value)}`
})
/** A name is written as it is, also where it begins a sentence. */
const said = computed(() => {
  const text = props.rehearsal.sentence
  const named = props.rehearsal.members.some((m) => text.startsWith(m.name))
  return named ? text : (text[0]?.toUpperCase() ?? '') + text.slice(1)
})
const tone = computed(() =>
  props.rehearsal.outcome === 'passed' ? 'good' : props.rehearsal.outcome === 'failed' ? 'bad' : '',
)
</script>

<template>
  <article class="block">
    <div class="row-between">
      <h2>
        <router-link :to="{ name: 'board', query: { w: rehearsal.workload } }">{{
          rehearsal.workloadName
        }}</router-link>
        <b :class="tone"> {{ state }}</b>
      </h2>
      <v-btn v-if="!rehearsal.outcome && mayWork" @click="$emit('cancel')"
        >Cancel this rehearsal</v-btn
      >
    </div>
    <p v-if="rehearsal.sentence" class="said">
      {{ said }}.
      <template v-if="rehearsal.rehearsed">It shows the workload rehearsed.</template>
      <template v-else-if="rehearsal.outcome === 'passed'"
        >It took longer than it may: what its members showed stands, and no more.</template
      >
    </p>
    <p v-else-if="rehearsal.startedAt" class="said">
      {{ up }} of {{ count(rehearsal.members.length, 'member is', 'members are') }} up.
    </p>
    <p class="small quiet">
      <template v-if="rehearsal.loss"
        >From what the loss of <b>{{ rehearsal.loss }}</b> leaves · </template
      >of the moment {{ time(rehearsal.moment)
      }}<template v-if="rehearsal.spreadMs !== undefined">
        (data {{ duration(rehearsal.spreadMs) }} apart)</template
      >
      · {{ rehearsal.atOnce }} at once · asked by {{ rehearsal.requestedBy }}: {{ rehearsal.reason
      }}<template v-if="rehearsal.endedAt">
        · <Moment :at="rehearsal.endedAt" />, {{ relative(rehearsal.endedAt) }}</template
      ><template v-if="rehearsal.outcome"> · clean-up {{ words(rehearsal.cleanup) }}</template>
    </p>
    <TideBars :bars="bars" :rto-ms="rehearsal.rtoMs" />
    <p v-if="rehearsal.undisturbed" class="small">
      Protection meanwhile: {{ rehearsal.undisturbed }}.
    </p>
    <details class="small">
      <summary>In words, member by member</summary>
      <ul>
        <li v-for="m in rehearsal.members" :key="m.resource">
          <span class="mono">{{ m.name }}</span> <b>{{ stateWords(m.state) }}</b><template
            v-if="m.with"
          >
            with another's image</template
          ><template v-if="m.store"
            >, from {{ m.store
            }}<template v-if="m.pointAt">, data of {{ time(m.pointAt) }}</template></template
          ><template v-if="m.sentence">: {{ m.sentence }}</template>
          <template v-if="m.run">
            ·
            <router-link :to="{ name: 'drills', query: { tab: 'done', run: m.run } }"
              >its drill</router-link
            ></template
          >
        </li>
      </ul>
    </details>
  </article>
</template>

<style scoped>
p {
  margin: 2px 0;
}
.said {
  overflow-wrap: anywhere;
}
h2 b {
  margin-left: 8px;
  font-weight: 600;
}
.good {
  color: var(--proven);
}
.bad {
  color: var(--disproven);
}
ul {
  margin: 4px 0 4px 18px;
}
summary {
  cursor: pointer;
}
</style>
